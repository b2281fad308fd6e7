import type { CauseClass } from './symptom'

/** A test of power, its outcomes, and how each class of causes shows in it. */
export interface PowerTest {
  id: string
  label: string
  minutes: number
  euro: number
  outcomes: readonly { id: string; label: string }[]
  /** Likelihoods of the outcomes where a cause says nothing of its own. */
  usual: readonly number[]
  shows: Partial<Record<CauseClass, readonly number[]>>
  /** The usual caution; the test is not made without it. */
  caution?: string
}

const o = (id: string, label: string) => ({ id, label })
const SAME_GONE = [o('same', 'it is the same'), o('gone', 'it is gone')]

/**
 * Likelihoods are judgement, from what each cause does in a circuit: no outcome is ever ruled out, since a test is
 * sometimes made or read wrongly.
 */
export const POWER_TESTS: readonly PowerTest[] = [
  {
    id: 'volts-at-radio-keyed',
    label: 'Meter at the radio’s own inlet, key into a dummy load at full power',
    minutes: 5,
    euro: 0,
    outcomes: [
      o('holds', 'it stays well above the radio’s least'),
      o('low', 'it falls under the radio’s least, or nearly'),
      o('nothing', 'it falls to nothing'),
    ],
    usual: [0.85, 0.12, 0.03],
    shows: {
      sag: [0.08, 0.88, 0.04],
      joint: [0.1, 0.78, 0.12],
      shared: [0.1, 0.72, 0.18],
      empty: [0.1, 0.75, 0.15],
      aged: [0.15, 0.78, 0.07],
      bms: [0.15, 0.15, 0.7],
      limit: [0.1, 0.7, 0.2],
      blown: [0.03, 0.07, 0.9],
      'load-cut': [0.2, 0.2, 0.6],
      'no-12': [0.15, 0.8, 0.05],
      'cable-3a': [0.1, 0.6, 0.3],
      sleeps: [0.3, 0.1, 0.6],
      'low-power': [0.3, 0.68, 0.02],
    },
  },
  {
    id: 'volts-at-battery-keyed',
    label: 'Meter on the battery’s own posts, key into a dummy load at full power',
    minutes: 4,
    euro: 0,
    outcomes: [
      o('holds', 'it stays where it was, within half a volt'),
      o('low', 'it falls by more than that'),
      o('nothing', 'it falls to nothing'),
    ],
    usual: [0.9, 0.08, 0.02],
    shows: {
      sag: [0.6, 0.38, 0.02],
      joint: [0.93, 0.06, 0.01],
      shared: [0.9, 0.08, 0.02],
      empty: [0.1, 0.75, 0.15],
      aged: [0.08, 0.87, 0.05],
      bms: [0.15, 0.15, 0.7],
      limit: [0.15, 0.6, 0.25],
      'left-on': [0.4, 0.5, 0.1],
      'charger-small': [0.4, 0.5, 0.1],
    },
  },
  {
    id: 'rested-volts',
    label: 'Let it rest for an hour with all off, then meter the battery',
    minutes: 12,
    euro: 0,
    outcomes: [
      o('full', 'as a full or nearly full one'),
      o('half', 'as one half full'),
      o('empty', 'as one nearly empty'),
      o('nothing', 'next to nothing'),
    ],
    usual: [0.45, 0.42, 0.1, 0.03],
    shows: {
      empty: [0.03, 0.2, 0.72, 0.05],
      bms: [0.4, 0.25, 0.1, 0.25],
      'left-on': [0.05, 0.2, 0.65, 0.1],
      'charger-small': [0.05, 0.45, 0.45, 0.05],
      'wrong-set': [0.1, 0.55, 0.3, 0.05],
      'too-cold': [0.05, 0.45, 0.45, 0.05],
      'no-input': [0.04, 0.4, 0.5, 0.06],
      aged: [0.4, 0.35, 0.22, 0.03],
    },
  },
  {
    id: 'other-battery',
    label: 'Feed it from another battery that is known to be good, on a lead of its own',
    minutes: 8,
    euro: 0,
    outcomes: SAME_GONE,
    usual: [0.15, 0.85],
    shows: {
      itself: [0.95, 0.05],
      antenna: [0.95, 0.05],
      rf: [0.6, 0.4],
      other: [0.5, 0.5],
      short: [0.6, 0.4],
    },
    caution: 'Fuse its lead at the battery.',
  },
  {
    id: 'half-power',
    label: 'Transmit at half power',
    minutes: 2,
    euro: 0,
    outcomes: SAME_GONE,
    usual: [0.75, 0.25],
    shows: {
      sag: [0.15, 0.85],
      joint: [0.35, 0.65],
      shared: [0.4, 0.6],
      aged: [0.25, 0.75],
      bms: [0.15, 0.85],
      limit: [0.15, 0.85],
      rf: [0.35, 0.65],
      'small-fuse': [0.3, 0.7],
      'cable-3a': [0.25, 0.75],
      empty: [0.5, 0.5],
    },
  },
  {
    id: 'dummy-load',
    label: 'Transmit into a dummy load in place of the antenna',
    minutes: 4,
    euro: 0,
    outcomes: SAME_GONE,
    usual: [0.93, 0.07],
    shows: { rf: [0.1, 0.9], antenna: [0.12, 0.88], other: [0.6, 0.4] },
  },
  {
    id: 'feel-joints',
    label: 'Transmit for two minutes, switch off, then feel each joint from the battery to the radio',
    minutes: 6,
    euro: 0,
    outcomes: [o('warm', 'one is warm, discoloured or loose'), o('cold', 'all are cold and tight')],
    usual: [0.06, 0.94],
    shows: { joint: [0.7, 0.3], shared: [0.75, 0.25], 'small-fuse': [0.45, 0.55], short: [0.3, 0.7] },
    caution: 'A bad joint can be hot enough to burn: go near it first.',
  },
  {
    id: 'fuse-whole',
    label: 'Look at every fuse on the way, and meter across it',
    minutes: 4,
    euro: 0,
    outcomes: [o('whole', 'all are whole'), o('blown', 'one is blown, or a breaker is open')],
    usual: [0.96, 0.04],
    shows: { blown: [0.04, 0.96], short: [0.15, 0.85], 'small-fuse': [0.35, 0.65] },
    caution: 'Never a larger fuse than the plan says.',
  },
  {
    id: 'new-fuse-holds',
    label: 'Put in a fuse of the same rating, all loads off, then switch one on after the other',
    minutes: 6,
    euro: 1,
    outcomes: [
      o('at-once', 'it blows at once, with all off'),
      o('with-one', 'it blows with one of them'),
      o('later', 'it holds, and blows after a while on transmit'),
      o('holds', 'it holds'),
    ],
    usual: [0.02, 0.04, 0.04, 0.9],
    shows: {
      short: [0.55, 0.35, 0.04, 0.06],
      'small-fuse': [0.02, 0.12, 0.66, 0.2],
      joint: [0.02, 0.03, 0.35, 0.6],
    },
    caution: 'Stand clear of the block while it is switched on.',
  },
  {
    id: 'drain-all-off',
    label: 'Switch all off as for the night, and read the current that the battery still gives',
    minutes: 5,
    euro: 0,
    outcomes: [o('none', 'next to none'), o('some', 'more than a tenth of an amp')],
    usual: [0.88, 0.12],
    shows: { 'left-on': [0.08, 0.92], short: [0.3, 0.7] },
  },
  {
    id: 'charger-shows',
    label: 'Look at the charging device: what it is set to, what its lamps or display say',
    minutes: 3,
    euro: 0,
    outcomes: [
      o('charges', 'it says that it charges, for this chemistry'),
      o('other', 'it is set to another chemistry'),
      o('waits', 'it says that it has no input, or waits'),
      o('cold', 'it says that it is too cold, or locks'),
    ],
    usual: [0.86, 0.03, 0.08, 0.03],
    shows: {
      'wrong-set': [0.1, 0.85, 0.03, 0.02],
      'no-input': [0.06, 0.02, 0.88, 0.04],
      'too-cold': [0.2, 0.02, 0.13, 0.65],
      blown: [0.2, 0.03, 0.72, 0.05],
    },
  },
  {
    id: 'charge-amps',
    label: 'Read the current into the battery while it should charge',
    minutes: 4,
    euro: 0,
    outcomes: [o('good', 'about what it should be'), o('little', 'little'), o('none', 'none')],
    usual: [0.75, 0.15, 0.1],
    shows: {
      'wrong-set': [0.2, 0.5, 0.3],
      'no-input': [0.02, 0.08, 0.9],
      'too-cold': [0.04, 0.16, 0.8],
      'charger-small': [0.1, 0.85, 0.05],
      blown: [0.02, 0.05, 0.93],
      joint: [0.2, 0.7, 0.1],
      bms: [0.1, 0.1, 0.8],
    },
  },
  {
    id: 'second-load',
    label: 'Hang a lamp or another small load on the bank beside it',
    minutes: 3,
    euro: 0,
    outcomes: [o('stays', 'it stays awake'), o('sleeps', 'it goes to sleep all the same')],
    usual: [0.3, 0.7],
    shows: { sleeps: [0.93, 0.07] },
  },
  {
    id: 'volts-at-port',
    label: 'Meter at the port with the load on it',
    minutes: 3,
    euro: 0,
    outcomes: [
      o('asked', 'the voltage that is asked for'),
      o('lower', 'a lower step: 9 or 5 V'),
      o('sags', 'it begins right and falls'),
    ],
    usual: [0.88, 0.06, 0.06],
    shows: { 'no-12': [0.05, 0.9, 0.05], 'cable-3a': [0.15, 0.3, 0.55], limit: [0.2, 0.15, 0.65] },
  },
  {
    id: 'direct-lead',
    label: 'Feed the radio by a short fused lead straight from the battery',
    minutes: 6,
    euro: 0,
    outcomes: SAME_GONE,
    usual: [0.85, 0.15],
    shows: {
      joint: [0.06, 0.94],
      shared: [0.06, 0.94],
      sag: [0.25, 0.75],
      'load-cut': [0.05, 0.95],
      limit: [0.3, 0.7],
      gap: [0.1, 0.9],
      blown: [0.05, 0.95],
      'no-12': [0.1, 0.9],
      rf: [0.5, 0.5],
    },
    caution: 'Fuse it at the battery; mind the radio’s highest volts where the battery is being charged.',
  },
  {
    id: 'changeover-battery-in',
    label: 'Meter on the radio’s inlet while somebody pulls the mains',
    minutes: 5,
    euro: 0,
    outcomes: [o('dips', 'it dips to under the radio’s least'), o('steady', 'it stays')],
    usual: [0.1, 0.9],
    shows: { gap: [0.88, 0.12], empty: [0.7, 0.3], bms: [0.6, 0.4], joint: [0.5, 0.5], aged: [0.5, 0.5] },
  },
  {
    id: 'power-meter',
    label: 'Read the transmit power into a dummy load',
    minutes: 4,
    euro: 0,
    outcomes: [o('full', 'full'), o('down', 'clearly less'), o('none', 'next to none')],
    usual: [0.9, 0.07, 0.03],
    shows: {
      'low-power': [0.1, 0.85, 0.05],
      sag: [0.3, 0.6, 0.1],
      itself: [0.15, 0.35, 0.5],
      joint: [0.4, 0.52, 0.08],
      empty: [0.4, 0.5, 0.1],
    },
  },
  {
    id: 'warmed',
    label: 'Bring the pack into the warm for some hours, then charge',
    minutes: 20,
    euro: 0,
    outcomes: [o('yes', 'now it charges'), o('no', 'it does not charge')],
    usual: [0.1, 0.9],
    shows: { 'too-cold': [0.93, 0.07] },
  },
]

export const powerTest = (id: string) => POWER_TESTS.find(t => t.id === id)
export const rowOf = ({ usual, shows }: PowerTest, of: CauseClass): readonly number[] => shows[of] ?? usual
