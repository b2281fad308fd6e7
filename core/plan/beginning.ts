/* eslint-disable house/ask-the-kind -- what is put beside a pack is the subject of this file */
import { DC_CHARGER_TAKES, DC_CHARGERS_A } from '../catalog/dcChargers'
import { CONTINUOUS_FACTOR, FUSE_AT_POST_M } from '../catalog/fuses'
import { judgedLimit } from '../kinds/batteryLimits'
import { asKind, isLoad, kindOf, KINDS, type Part, type PartOf } from '../kinds/index'
import { grown } from '../kinds/sized'
import type { Lead, Plan } from './schema'
import {
  activeAmps,
  askerFor,
  cable,
  chosenLoads,
  chosenPart,
  entryOf,
  exitOf,
  mainFuse,
  onto,
  planOf,
  startPlan,
  thickEnough,
  unjoined,
  wireOf,
  type Answers,
  type Chosen,
  type Wire,
} from './starter'
import { rounded } from '../units/number'

/** A first plan from more than one source: a pack, with mains through a gate, sun and a vehicle that fill it. */

export interface Beginning extends Answers {
  /** Mains supply beside the pack: a gate goes over to the pack when it fails. */
  mains?: Chosen
  /** Vehicle that fills the pack, through a DC-DC charger. */
  vehicle?: Chosen
  /** Panel that fills the pack, through a controller. */
  sun?: Chosen
}

/** Usual lengths, one way, m; they are changed as soon as somebody measures. */
const LENGTHS_M = { supply: 1, gate: 0.4, pack: 0.6, panel: 5, fills: 1, vehicle: 4, bus: 0.3 } as const

/** The thickest conductor that a gate's stacking contacts take, mm²: 10 AWG. */
const GATE_MM2 = 5.3

/** A source that others fill, as what fills it sees it. */
interface Pack {
  /** Where leads land on it. */
  at: string
  hasStud: boolean
  /** To which what charges it is set. */
  chemistry: string
  /** Most that it takes, A. */
  takesA: number
}

/** Null for what is not charged, or has no chemistry to which a charging device could be set. */
function packOf(source: Part): Pack | null {
  const setting = kindOf(source).settingFor?.(source)
  if (!setting) return null
  const { id: at, connector = '' } = entryOf(source)
  const battery = asKind(source, 'battery')
  const takesA = battery ? judgedLimit(battery, 'maxChargeA')?.amps : setting.maxChargeA
  return { at, hasStud: connector.startsWith('ring-m'), chemistry: setting.chemistry, takesA: takesA ?? Infinity }
}

/** Whether others can fill it: mains, sun, a vehicle. */
export const canBeFilled = (source: Part): boolean => packOf(source) !== null

/**
 * The plan of the answers; null where one is not in the catalogue. What fills a pack is left out where the source is
 * none. It may well have findings: it is mended before it is made.
 */
export function beginPlan(answers: Beginning): Plan | null {
  const source = chosenPart(answers.source, 'src')
  const loads = chosenLoads(answers.loads)
  if (!source || !loads?.length) return null
  const pack = packOf(source)
  if (!pack) return planOf(answers, source, loads)
  const heavy = loads.filter(l => pack.hasStud && activeAmps(l) > PORT_MOST_A)
  const onBlock = loads.filter(l => !heavy.includes(l))
  // A gate's terminals take no thicker lead than its own.
  const limited = { ...answers, ...(answers.mains !== undefined && { mostMm2: GATE_MM2 }) }
  const base = onBlock.length ? planOf(limited, source, onBlock) : unjoined(answers.name, [source])
  const plan = new Builder(base, wireOf(answers), pack)
  const [supply, panel, vehicle] = [answers.mains, answers.sun, answers.vehicle].map((chosen, i) =>
    chosen === undefined ? undefined : chosenPart(chosen, ['mains', 'sun', 'car'][i]!),
  )
  if (supply === null || panel === null || vehicle === null) return null
  if (panel || vehicle) plan.spreadPack()
  for (const load of heavy) plan.addHeavy(load)
  if (supply && onBlock.length) plan.addMains(supply)
  else if (supply) plan.addCharger()
  if (panel) plan.addSun(asKind(panel, 'panel')!)
  if (vehicle) plan.addVehicle(vehicle)
  return plan.plan
}

/** What takes more is no load for a block's port: the largest blade fuse there is 40 A. */
const PORT_MOST_A = 40 / CONTINUOUS_FACTOR

/** One source on one load, by a fused lead: what is asked when somebody asks whether they suit. */
export function pairPlan(answers: Omit<Answers, 'loads'> & { load: Chosen }): Plan | null {
  const base = startPlan({ ...answers, loads: [answers.load] })
  const load = base?.parts.at(-1)
  const source = base?.parts[0]
  if (!base || !load || !source) return null
  const asked = askerFor(source, [load])
  const giver = asked ?? source
  const wire = wireOf(answers)
  const lead: Lead = {
    id: 'lead',
    name: `${load.name ?? load.id} lead`,
    from: exitOf(giver),
    to: entryOf(load).id,
    lengthM: wire.lengthM,
    conductor: wire.conductor,
    ends: {
      from: { connector: onto(exitOf(giver), giver), method: 'crimp' },
      to: { connector: onto(entryOf(load).id, load), method: 'crimp' },
    },
    inline: [fuseFor(activeAmps(load), wire, FUSE_AT_POST_M)],
  }
  const leads = [...(asked ? [cable(source, asked)] : []), lead]
  return { ...base, parts: [source, ...(asked ? [asked] : []), load], leads }
}

const fuseFor = (amps: number, { carriesA }: Wire, atM: number) => ({
  id: 'f1',
  kind: 'fuse' as const,
  ...mainFuse(amps, carriesA),
  atM: rounded(atM, 3),
  legs: 'positive' as const,
})

/** What a gate charges with beside what it passes on, A. */
const GATE_CHARGES_A = 4

/** Parts and leads added to a plan of one pack. */
class Builder {
  constructor(
    public plan: Plan,
    private readonly wire: Wire,
    private readonly pack: Pack,
  ) {}

  private get totalA(): number {
    return this.plan.parts.filter(isLoad).reduce((sum, p) => sum + activeAmps(p), 0)
  }

  private hub = 0
  private bus: Part | null = null

  /** A pack with a plug takes one lead: a busbar takes the others. */
  spreadPack() {
    if (this.pack.hasStud) return
    const bus = this.made('joint-busbar', 'bus')
    const main = this.plan.leads.find(l => l.id === 'main')!
    this.bus = bus
    const first = this.onPack()
    const second = this.onPack()
    const tail = this.lead('tail', 'busbar lead', {
      from: this.pack.at,
      to: first,
      lengthM: LENGTHS_M.bus,
      amps: this.totalA,
    })
    this.put([bus], [{ ...tail, inline: main.inline }])
    this.replaceLead({ ...main, from: second, ends: { ...main.ends, from: { connector: 'ring-m6', method: 'crimp' } } })
    // The fuse has gone to the pack.
    this.plan.leads.find(l => l.id === 'main')!.inline = undefined
  }

  /** Where the next lead lands that belongs on the pack. */
  private onPack = () => (this.bus ? `bus.${'abcdefgh'[this.hub++]}` : this.pack.at)

  /** A load that no port of a block carries, on the pack's own stud. */
  addHeavy(load: Part) {
    const amps = activeAmps(load)
    const way = { from: this.onPack(), to: entryOf(load).id, lengthM: this.wire.lengthM, amps }
    const lead = this.lead(`${load.id}-lead`, `${load.name ?? load.id} lead`, way, Infinity)
    this.put([load], [])
    this.put([], [this.fitted({ ...lead, inline: [this.fuse(lead, amps, FUSE_AT_POST_M)] })])
  }

  addMains(supply: Part) {
    const charging = this.made('gate-40', 'gate') as PartOf<'gate'>
    const charges = this.pack.chemistry in (charging.chemistries ?? {})
    const gate = charges ? ({ ...charging, set: this.pack.chemistry } as Part) : this.made('gate-relay-30', 'gate')
    const main = this.plan.leads.find(l => l.id === 'main')!
    this.replaceLead({
      ...main,
      to: 'gate.battery',
      lengthM: LENGTHS_M.pack,
      ends: { ...main.ends, to: { connector: this.ontoPart(gate, 'gate.battery'), method: 'crimp' } },
    })
    const fed = this.lead('feed', 'supply lead', {
      from: entryOf(supply).id,
      to: 'gate.supply',
      lengthM: LENGTHS_M.supply,
      amps: this.totalA + GATE_CHARGES_A,
    })
    const out = this.lead('out', 'block lead', {
      from: 'gate.out',
      to: 'blk.feed',
      lengthM: LENGTHS_M.gate,
      amps: this.totalA,
    })
    this.put([supply, gate], [])
    this.put([], [this.fitted(fed), this.fitted(out)])
    if (!charges) this.addCharger()
  }

  /** Beside a gate that has no setting for the pack's chemistry, or no block to feed: a mains charger that has. */
  addCharger() {
    const rows = KINDS.get('charger')!.catalogue.map(r => ({ ...r.part, id: 'chr' }) as PartOf<'charger'>)
    const fitting = rows.filter(c => this.pack.chemistry in (c.chemistries ?? {}) && c.maxA <= this.pack.takesA).at(-1)
    if (!fitting) return
    this.put([{ ...structuredClone(fitting), set: this.pack.chemistry } as Part], [])
    this.fills('chr', 'charger lead', 'chl', fitting.maxA)
  }

  addSun(panel: PartOf<'panel'>) {
    const controller = { ...this.controllerFor(panel), set: this.pack.chemistry } as Part
    const line = this.lead('pv', 'panel lead', {
      from: entryOf(panel).id,
      to: 'ctl.panel',
      lengthM: LENGTHS_M.panel,
      amps: panel.shortCircuitA,
    })
    this.put([panel, controller], [])
    this.put([], [this.fitted(line)])
    this.fills('ctl.battery', 'charge lead', 'chg', asKind(controller, 'controller')!.maxChargeA)
  }

  addVehicle(vehicle: Part) {
    const row = this.made('dcdc-charger-20', 'dcdc') as PartOf<'converter'>
    const amps = this.chargeFrom(vehicle, row.maxOutA) ?? row.maxOutA
    const charger = grown(structuredClone(row), ['maxOutA', 'idleW'], amps / row.maxOutA)
    charger.charges = { ...charger.charges!, set: this.pack.chemistry }
    const fed = this.lead('veh', 'vehicle lead', {
      from: entryOf(vehicle).id,
      to: 'dcdc.in',
      lengthM: LENGTHS_M.vehicle,
      amps: DC_CHARGER_TAKES * amps,
    })
    this.put([vehicle, charger], [])
    this.put([], [this.fitted({ ...fed, inline: [this.fuse(fed, DC_CHARGER_TAKES * amps, FUSE_AT_POST_M)] })])
    this.fills('dcdc.out', 'DC-DC charge lead', 'dcl', amps)
  }

  /** The largest charge current, A, that a vehicle can spare and the pack takes; null where even the least is more. */
  private chargeFrom(vehicle: Part, mostA: number): number | null {
    const spareA = asKind(vehicle, 'vehicle')?.alternatorSpareA ?? Infinity
    const takesA = Math.min(mostA, this.pack.takesA)
    return DC_CHARGERS_A.filter(a => a * DC_CHARGER_TAKES <= spareA && a <= takesA).at(-1) ?? null
  }

  /** A lead from what charges to the pack, with its fuse at the pack. */
  private fills(from: string, name: string, id: string, amps: number) {
    const lead = this.lead(id, name, { from, to: this.onPack(), lengthM: LENGTHS_M.fills, amps })
    const fuse = this.fuse(lead, amps, LENGTHS_M.fills - FUSE_AT_POST_M)
    this.put([], [this.fitted({ ...lead, inline: [fuse] })])
  }

  /** The least controller of the catalogue that stands the panel on a cold day and takes its current. */
  private controllerFor(panel: PartOf<'panel'>): Part {
    const coldV = 1.2 * panel.openCircuitV
    const rows = KINDS.get('controller')!.catalogue.map(r => ({ ...r.part, id: 'ctl' }) as PartOf<'controller'>)
    const fits = (c: PartOf<'controller'>) =>
      c.maxPanelV >= coldV && (c.maxPanelA ?? Infinity) >= 1.25 * panel.shortCircuitA
    return structuredClone(rows.find(fits) ?? rows.at(-1)!)
  }

  private fuse = (lead: Lead, amps: number, atM: number) =>
    fuseFor(amps, wireOf({ conductor: lead.conductor, lengthM: lead.lengthM }), atM)

  private made = (rowId: string, id: string) => chosenPart(rowId, id)!

  private lead(
    id: string,
    name: string,
    { amps, ...way }: { from: string; to: string; lengthM: number; amps: number },
    mostMm2: number = GATE_MM2,
  ): Lead {
    return { id, name, ...way, conductor: thickEnough(this.wire.conductor, amps, way.lengthM, mostMm2) }
  }

  /** Ends that fit what they land on, once the parts are there. */
  private fitted = (lead: Lead): Lead => ({
    ...lead,
    ends: {
      from: { connector: this.ontoTerminal(lead.from), method: 'crimp' },
      to: { connector: this.ontoTerminal(lead.to), method: 'crimp' },
    },
  })
  private ontoTerminal(terminal: string): string {
    const part = this.plan.parts.find(p => terminal === p.id || terminal.startsWith(`${p.id}.`))!
    return part.kind === 'joint' ? 'ring-m6' : this.ontoPart(part, terminal)
  }
  private ontoPart = (part: Part, terminal: string) => onto(terminal, part)

  private put(parts: Part[], leads: Lead[]) {
    // What gives stands first.
    this.plan = { ...this.plan, parts: [...this.plan.parts, ...parts], leads: [...this.plan.leads, ...leads] }
  }
  private replaceLead(lead: Lead) {
    this.plan = { ...this.plan, leads: this.plan.leads.map(l => (l.id === lead.id ? lead : l)) }
  }
}
