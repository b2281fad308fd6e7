import type { FormField } from '../kinds/kind'
import { DEFAULT_AMBIENT_C } from './schema'

/** All that can be entered of a plan as a whole and of its site; schools have a view of their own. */

/** Where no temperatures are said, the usual ones with the one that is. */
const ambient = (which: 'low' | 'typical' | 'high') => ({
  path: 'site.ambientC',
  fresh: (celsius: unknown) => ({ ...DEFAULT_AMBIENT_C, [which]: celsius }),
})

export const siteForm: readonly FormField[] = [
  { path: 'name', label: 'Name', quantity: 'text' },
  { path: 'site.ambientC.low', label: 'Coldest', quantity: 'temperature', within: ambient('low') },
  { path: 'site.ambientC.typical', label: 'As a rule', quantity: 'temperature', within: ambient('typical') },
  { path: 'site.ambientC.high', label: 'Hottest', quantity: 'temperature', within: ambient('high') },
  { path: 'site.bands', label: 'Bands it is used on', quantity: 'words' },
  { path: 'site.dropShare', label: "A radio's path may drop", quantity: 'fraction' },
  {
    path: 'site.ampacity',
    label: 'Ampacity of conductors',
    quantity: 'choice',
    choices: [
      { id: 'open', label: 'open air, 105 °C insulation' },
      { id: 'enclosed', label: 'enclosed, building practice' },
    ],
  },
  {
    path: 'site.fuseDistance',
    label: 'Fuse from its source',
    quantity: 'choice',
    choices: [
      { id: 'strict', label: 'within 0.18 m' },
      { id: 'sheathed', label: 'farther in a sheath' },
    ],
  },
  {
    path: 'site.ground',
    label: 'Cases and battery negative',
    quantity: 'choice',
    choices: [
      { id: 'common', label: 'bonded at one point' },
      { id: 'none', label: 'not bonded' },
    ],
  },
  { path: 'note', label: 'Note on the plan', quantity: 'note' },
  { path: 'site.note', label: 'Note on the site', quantity: 'note' },
]

/** Of each place with temperatures of its own. */
export const zoneForm: readonly FormField[] = [
  { path: 'ambientC.low', label: 'Coldest', quantity: 'temperature' },
  { path: 'ambientC.typical', label: 'As a rule', quantity: 'temperature' },
  { path: 'ambientC.high', label: 'Hottest', quantity: 'temperature' },
]

/** Of each load state: what is active in it is ticked. */
export const loadStateForm: readonly FormField[] = [
  { path: 'name', label: 'Name', quantity: 'text' },
  { path: 'active', label: 'Active', quantity: 'parts' },
]
