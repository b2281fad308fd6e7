import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/verdict/verdict'
import { CHARGING_PLANS } from '../../data/hard/charging'
import { FUSES_PLANS } from '../../data/hard/fuses'
import { LEADS_PLANS } from '../../data/hard/leads'
import { SOURCES_PLANS } from '../../data/hard/sources'
import { SUN_PLANS } from '../../data/hard/sun'
import { VEHICLES_PLANS } from '../../data/hard/vehicles'

/** Plans that were judged by hand first: the whole verdict is what the hand said, and nothing beside it. */
const ROOMS = {
  sources: SOURCES_PLANS,
  charging: CHARGING_PLANS,
  sun: SUN_PLANS,
  vehicles: VEHICLES_PLANS,
  fuses: FUSES_PLANS,
  leads: LEADS_PLANS,
}

for (const [room, plans] of Object.entries(ROOMS))
  describe(`hard plans: ${room}`, () => {
    for (const { name, why, plan, bad, told } of plans)
      it(`${name} (${why})`, () => {
        const { findings } = judge(plan()).verdict
        const found = findings.map(f => `${f.severity} ${f.check} ${f.place}`)
        expect(found.filter(f => /^(danger|fail)/.test(f)).sort()).toEqual([...bad].sort())
        expect(found.filter(f => /^(caution|note)/.test(f)).sort()).toEqual([...told].sort())
        for (const f of findings) expect(`${f.title} ${f.message}`).not.toMatch(/NaN|undefined|Infinity/)
      })
  })
