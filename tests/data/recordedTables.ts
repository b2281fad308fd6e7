import * as cells from '../../core/battery/cells'
import * as packs from '../../core/battery/packs'
import * as bands from '../../core/catalog/bands'
import * as cautions from '../../core/catalog/cautions'
import * as chemistries from '../../core/catalog/chemistries'
import * as conductors from '../../core/catalog/conductors'
import * as connectors from '../../core/catalog/connectors'
import * as dcChargers from '../../core/catalog/dcChargers'
import * as fuses from '../../core/catalog/fuses'
import * as noise from '../../core/catalog/noise'
import * as prices from '../../core/catalog/prices'
import * as schools from '../../core/catalog/schools'
import * as stockKeys from '../../core/catalog/stockKeys'
import * as studs from '../../core/catalog/studs'
import { KINDS } from '../../core/kinds/index'

/** Every table of standards and every row of the catalogue, figure by figure, as in `recorded.ts`. */

const TABLES = {
  bands,
  cautions,
  cells,
  chemistries,
  conductors,
  connectors,
  dcChargers,
  fuses,
  noise,
  packs,
  prices,
  schools,
  stockKeys,
  studs,
}

const figuresOf = (module: object) =>
  Object.fromEntries(Object.entries(module).filter(([, value]) => typeof value !== 'function'))

export const RECORDED_TABLES: Record<string, () => unknown> = {
  tables: () => Object.fromEntries(Object.entries(TABLES).map(([name, module]) => [name, figuresOf(module)])),
  catalogue: () => Object.fromEntries([...KINDS].map(([id, kind]) => [id, kind.catalogue])),
}
