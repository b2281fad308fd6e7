import { CHEMISTRIES } from '../catalog/chemistries'
import { connector } from '../catalog/connectors'
import { fuseClass } from '../catalog/fuses'
import { conductorName } from '../conductor/resistance'
import { asGiven, figure } from '../units/number'
import type { ShelfItem } from './item'

/** A line of the shelf as a sentence names it: "12 AWG, 105 °C", "15 A blade", "Spare pack: LiFePO4 4S, 12 Ah". */
export function itemWords(item: ShelfItem): string {
  switch (item.what) {
    case 'conductor':
      return `${conductorName(item)}${item.insulationC ? `, ${asGiven(item.insulationC)} °C` : ''}`
    case 'contact':
      return connector(item.connector).label
    case 'fuse':
      return `${figure(item.ratedA)} A ${fuseClass(item.type).label}`
    case 'adapter': {
      const rating = item.ratedA ? `, ${figure(item.ratedA)} A` : ''
      return `${connector(item.a).label} to ${connector(item.b).label}${rating}`
    }
    case 'pack': {
      const name = item.name ? `${item.name}: ` : ''
      // A file may name a chemistry that the catalogue has not.
      const of = CHEMISTRIES.find(c => c.id === item.chemistry)?.label ?? item.chemistry
      return `${name}${of} ${item.seriesCells}S, ${figure(item.capacityAh)} Ah`
    }
  }
}
