import {
  coreImpedance,
  impedance,
  inductance,
  insertionLossDb,
  peakHz,
  strayFarad,
  worstLossDb,
} from '../../core/noise/choke/choke'
import { complex, magnitude, type Complex } from '../../core/noise/choke/complex'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { readFigure } from '../inputs'
import { asGiven, fixed, significant } from '../../core/units/number'

const NEEDED = [
  'initial-permeability',
  'relaxation-hz',
  'od-mm',
  'id-mm',
  'height-mm',
  'cores',
  'turns',
  'frequency-hz',
]
const USUAL = { 'source-ohm': 50, 'load-ohm': 50, 'stray-pf': 0 }

export const choke: Command = {
  name: 'choke',
  options: {
    ...Object.fromEntries([...NEEDED, ...Object.keys(USUAL)].map(name => [name, { value: 'N' }])),
    json: {},
  },
  help: `Inductance, complex impedance and insertion loss of a winding on ferrite:
--initial-permeability 1500 --relaxation-hz 3e6 --od-mm 36 --id-mm 23 --height-mm 15 --cores 4 --turns 4
--frequency-hz 14e6. Between 50 Ω and 50 Ω, and without winding capacitance, unless others are given.`,
  run(call) {
    const result = wound(call)
    if (call.json) printJson(result)
    else out(inWords(result))
    return 0
  },
}

function wound(call: Call) {
  const figure = (name: string) => readFigure(call, name, { above: 0 })
  const material = { initialPermeability: figure('initial-permeability'), relaxationHz: figure('relaxation-hz') }
  const ring = { odMm: figure('od-mm'), idMm: figure('id-mm'), heightMm: figure('height-mm') }
  const winding = { ...material, ...ring, cores: figure('cores'), turns: figure('turns') }
  if (ring.idMm >= ring.odMm)
    refuse('--id-mm', `${ring.idMm} is not under the outside of ${ring.odMm}`, 'a hole smaller than the core')
  const frequencyHz = figure('frequency-hz')
  const [sourceOhm, loadOhm, strayPf] = Object.entries(USUAL).map(([name, otherwise]) =>
    readFigure(call, name, { otherwise }),
  ) as [number, number, number]
  const strayF = strayPf * 1e-12
  const loop = complex(sourceOhm + loadOhm)
  const z = strayF > 0 ? impedance({ ...winding, strayF }, frequencyHz) : coreImpedance(winding, frequencyHz)
  const usual = impedance(winding, frequencyHz)
  return {
    inductanceH: inductance(winding),
    frequencyHz,
    impedance: parts(z),
    insertionLossDb: insertionLossDb(z, loop),
    sourceOhm,
    loadOhm,
    withWindingCapacitance: {
      strayPf: strayFarad(winding) * 1e12,
      ...parts(usual),
      insertionLossDb: insertionLossDb(usual, loop),
      worstPhaseLossDb: worstLossDb(usual, sourceOhm + loadOhm),
      peakHz: peakHz(winding),
    },
  }
}

const parts = (z: Complex) => ({ realOhm: z.re, imaginaryOhm: z.im, magnitudeOhm: magnitude(z) })

function inWords(result: ReturnType<typeof wound>): string {
  const { realOhm, imaginaryOhm, magnitudeOhm } = result.impedance
  const { strayPf, magnitudeOhm: usualOhm, worstPhaseLossDb } = result.withWindingCapacitance
  const sign = imaginaryOhm < 0 ? '−' : '+'
  const z = `${fixed(realOhm, 0)} ${sign} j${fixed(Math.abs(imaginaryOhm), 0)} Ω (${fixed(magnitudeOhm, 0)} Ω)`
  const between = `between ${asGiven(result.sourceOhm)} Ω and ${asGiven(result.loadOhm)} Ω`
  return [
    `${significant(result.inductanceH * 1e6, 4)} µH`,
    `at ${significant(result.frequencyHz / 1e6, 4)} MHz ${z}, ${fixed(result.insertionLossDb, 1)} dB ${between}`,
    `with ${fixed(strayPf, 1)} pF across the winding ${fixed(usualOhm, 0)} Ω, ` +
      `${fixed(worstPhaseLossDb, 1)} dB where the loop is reactive at its worst`,
  ].join('; ')
}
