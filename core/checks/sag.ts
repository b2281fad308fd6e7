import { isCarried } from '../circuit/matrix'
import { conditionWords, loadsOf } from '../circuit/conditions'
import { shortenUntil, thickenUntil } from '../fixes/conductor'
import { largerPart } from '../fixes/parts'
import { lessHung, lessHungOnAll, turnDownAny } from '../fixes/power'
import type { Proposal } from '../fixes/proposal'
import { kindOf, needs, partsOf } from '../kinds/index'
import { powerShare } from '../kinds/radio'
import { figure, fixed } from '../units/number'
import type { Study } from '../study/study'
import { against, percent, volts, watts } from '../units/show'
import type { Check, Found } from './check'
import { someOf } from '../units/words'
import { leadName } from '../plan/find'

export const powerSag: Check = {
  id: 'power-sag',
  severities: ['note'],
  looksAt: 'all in which the radio transmits',
  title: 'Transmit power given up to sag',
  why: "Below the voltage it is specified for, a transmitter's power falls about with the square of the voltage.",
  source: "the radio's manual (fullPowerAboveV), or what was measured on it (powerAtVolts)",
  find: study =>
    partsOf(study.plan.parts, 'radio').flatMap((radio): Found[] => {
      const node = study.solved.network.nodeOf.get(radio.id)!
      if (study.solved.network.unfed[node]) return []
      const active = study.points.filter(p => p.condition.active.has(radio.id))
      const low = active.reduce<{ v: number; condition: string } | null>(
        (best, p) => (!best || p.volts[node]! < best.v ? { v: p.volts[node]!, condition: p.condition.id } : best),
        null,
      )
      const share = low && powerShare(radio, low.v)
      if (!low || !share || share >= 1 - 1e-9 || low.v < needs(radio).minV) return []
      const measured = radio.powerAtVolts
      const fullW = measured && Math.max(...measured.map(p => p.powerW))
      const full = measured
        ? `full power is ${figure(fullW!)} W as measured`
        : `full power needs ${volts(radio.fullPowerAboveV!)}`
      return [
        {
          severity: 'note',
          place: radio.id,
          condition: low.condition,
          title: `${study.name(radio)} gives up power to sag`,
          message:
            `At ${against(volts, low.v, radio.fullPowerAboveV ?? Infinity)} ` +
            `(${conditionWords(study.plan, low.condition)}) ` +
            `${study.name(radio)} gives about ` +
            `${fixed(100 * share, 0)} % of its power, ${fixed(-10 * Math.log10(share), 1)} dB less; ${full}.`,
          numbers: {
            arrivesV: low.v,
            ...(measured ? { fullW: fullW! } : { fullPowerAboveV: radio.fullPowerAboveV! }),
            share,
          },
        },
      ]
    }),
}

export const collapse: Check = {
  id: 'collapse',
  severities: ['fail'],
  looksAt: 'all',
  title: 'The path cannot carry it',
  why:
    'A computer or converter takes more current the lower its voltage, which lowers it further: beyond a point ' +
    'nothing holds, and the load drops out and comes back over and over.',
  source: 'no solution of the nodal equations',
  find: study => {
    const failed = study.solved.points.filter(p => p.status === 'collapses' || p.condition.off)
    // How much could be carried is looked for in the corners.
    const worst = failed
      .filter(p => p.most)
      .reduce<(typeof failed)[number] | null>((a, b) => (!a || b.most!.share < a.most!.share ? b : a), null)
    if (!worst) return []
    const { network } = study.solved
    // What drops out is asked for all the same.
    const { active } = worst.condition.asked ?? worst.condition
    const drawn = loadsOf(study.plan).filter(
      l =>
        !network.unfed[network.nodeOf.get(l.id)!] &&
        (worst.most!.of === 'all loads' || kindOf(l).sink!(l, active.has(l.id)).law === 'power'),
    )
    const { share } = worst.most!
    const wantedW = drawn.reduce((sum, l) => {
      const sink = kindOf(l).sink!(l, active.has(l.id))
      return sum + (sink.law === 'power' ? sink.value : 0)
    }, 0)
    const most =
      worst.most!.of === 'constant-power loads'
        ? `the sources can carry at most ${against(watts, wantedW * share, wantedW)} of the ${watts(wantedW)} ` +
          `that ${someOf(drawn.map(study.name))} ${drawn.length > 1 ? 'want' : 'wants'}`
        : `the sources can carry at most ${against(percent, share, 1)} of what all loads want`
    const dropped = loadsOf(study.plan).filter(l => worst.condition.off?.has(l.id))
    const [first, ...others] = dropped.length ? dropped : drawn
    const names = someOf(dropped.map(study.name))
    const words = conditionWords(study.plan, worst.condition.id)
    const drops = `${names} ${dropped.length > 1 ? 'drop' : 'drops'} out even idle`
    const out = dropped.length ? ` ${drops}; the others are judged without.` : ''
    return [
      {
        severity: 'fail',
        place: first?.id ?? study.plan.parts[0]!.id,
        also: others.map(d => d.id),
        condition: worst.condition.id,
        title: dropped.length ? `${names} cannot be carried, even idle` : `Collapses (${words})`,
        message:
          `There is no operating point with ${words}: ${most}.${out} ` +
          `Conditions without a solution: ${failed.length} of ${study.solved.points.length}.`,
        numbers: {
          share,
          ...(wantedW && { wantedW, mostW: wantedW * share }),
          conditions: failed.length,
        },
      },
    ]
  },
  fixes: (found, study) => {
    const passes = isCarried
    const leads = [...study.plan.leads].sort((a, b) => b.lengthM - a.lengthM).slice(0, 4)
    const inverters = partsOf(study.plan.parts, 'inverter')
    // What can be carried may still be more than a fuse or a pack stands: so little is tried as well.
    const most = turnDownAny(study.plan, passes)
    const fewer = [...inverters.map(i => lessHung(study.plan, i)), lessHungOnAll(study.plan)]
    const little = fewer.flatMap(less => less.slice(-3)).filter(l => l.label !== most?.label)
    const less = [most, ...little, ...stifferBatteries(study)].filter(p => p !== null)
    const shorter = leads
      .map(
        l =>
          thickenUntil(study.plan, l.id, passes) ??
          shortenUntil(study.plan, l.id, `the far end of ${leadName(l)}`, passes),
      )
      .filter((p): p is Proposal => p !== null)
      .slice(0, 2)
    return [...shorter, ...less]
  },
}

/** Batteries of the catalogue like those there are, with less resistance inside. */
const stifferBatteries = (study: Study): (Proposal | null)[] =>
  partsOf(study.plan.parts, 'battery').map(({ id, chemistry, seriesCells, internalOhm }) =>
    largerPart(
      study.plan,
      id,
      c => c.chemistry === chemistry && c.seriesCells === seriesCells && Number(c.internalOhm) < internalOhm / 2,
    ),
  )
