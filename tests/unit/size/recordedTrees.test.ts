import { sizePlan } from '../../../core/size/size'
import { holdsToRecorded } from '../../data/holdsToRecorded'
import { sampled } from '../../data/sampled'
import { askedOf, smallStation } from '../../data/smallTrees'

/** Small stations sized; that sizes are least is held by `exact.test.ts`. */
const SEEDS = sampled(Array.from({ length: 80 }, (_, i) => i + 1))

function sizedOf(seed: number) {
  const station = smallStation(seed)
  const asked = askedOf(seed, station)
  const { plan: _plan, patch: _patch, ...told } = sizePlan(station, asked)
  return [`${seed} ${JSON.stringify(asked)}`, told]
}

holdsToRecorded(
  'small stations sized',
  { 'sized-small': () => ({ trees: Object.fromEntries(SEEDS.map(sizedOf)) }) },
  true,
)
