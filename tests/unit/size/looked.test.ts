import { describe, expect, it } from 'vitest'
import { Looked } from '../../../core/size/looked'
import { sizePlan } from '../../../core/size/size'
import { battery, lead, load, smallPlan } from '../../data/plans'

const ofLength = (lengthM: number) => smallPlan({ leads: [lead({ lengthM })] })

describe('a plan that sizing looked at', () => {
  it('is studied and judged once, however often its content comes', () => {
    const looked = new Looked()
    const first = looked.judge(ofLength(2))
    expect(looked.study(ofLength(2))).toBe(first.study)
    expect(looked.judge(ofLength(2))).toEqual(first)
    expect(looked.judge(ofLength(2)).verdict).toBe(first.verdict)
    expect(looked.study(ofLength(2.001))).not.toBe(first.study)
  })
  it('is let go once 200 others came after it', () => {
    const looked = new Looked()
    const [first, second] = [looked.study(ofLength(1)), looked.study(ofLength(2))]
    for (let n = 3; n <= 201; n++) looked.study(ofLength(n))
    expect(looked.study(ofLength(2))).toBe(second)
    expect(looked.study(ofLength(1))).not.toBe(first)
  })
})

/** How often sizing asks for a study while something is worked out. */
function askedIn(work: () => void): number {
  const own = Looked.prototype.study
  let asked = 0
  Looked.prototype.study = function (plan) {
    asked++
    return own.call(this, plan)
  }
  try {
    work()
  } finally {
    Looked.prototype.study = own
  }
  return asked
}

describe('sizing that comes to nothing', () => {
  it('gives up once a round leaves the plan and what is known of it as they were', () => {
    // 13 V behind 2 Ω give 21 W at most: no size is to blame for 30 W, and none helps.
    const tooMuch = smallPlan({ parts: [battery({ internalOhm: 2 }), load()], leads: [lead({ to: 'pc' })] })
    const asked = askedIn(() => {
      const { plan, obstacles } = sizePlan(tooMuch, { for: 'weight' })
      expect(plan).toBeNull()
      expect(obstacles).toEqual(['the sources cannot carry the station'])
    })
    // With all rounds gone they are 759.
    expect(asked).toBeLessThan(110)
  })
})
