import { afterEach, describe, expect, it, vi } from 'vitest'
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

describe('sizing that comes to nothing', () => {
  afterEach(() => vi.restoreAllMocks())
  it('gives up once a round leaves the plan and what is known of it as they were', () => {
    const study = vi.spyOn(Looked.prototype, 'study')
    // 13 V behind 2 Ω give 21 W at most: no size is to blame for 30 W, and none helps.
    const tooMuch = smallPlan({ parts: [battery({ internalOhm: 2 }), load()], leads: [lead({ to: 'pc' })] })
    const result = sizePlan(tooMuch, { for: 'weight' })
    expect(result.plan).toBeNull()
    expect(result.obstacles).toEqual(['the sources cannot carry the station'])
    // With all rounds gone they are 759.
    expect(study.mock.calls.length).toBeLessThan(110)
  })
})
