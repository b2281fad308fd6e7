/** What the choices of the forms offer. */
import { CONNECTORS } from '#core/catalog/connectors'
import { KINDS } from '#core/kinds/index'

export const CONNECTOR_OPTIONS = CONNECTORS.map(c => ({ id: c.id, label: c.label }))

/** Parts that a lead can go through. */
export const THROUGH_PARTS = [...KINDS.values()]
  .filter(k => k.between)
  .flatMap(k => k.catalogue.map(row => ({ label: row.label, kind: k.kind as string, part: row.part })))

export const NEW_ITEMS = [
  { label: 'fuse', fromEndM: 0.12, value: { kind: 'fuse', type: 'blade', ratedA: 20, legs: 'positive' } },
  { label: 'breaker', fromEndM: 0.12, value: { kind: 'breaker', ratedA: 30 } },
  { label: 'switch', fromEndM: 0.3, value: { kind: 'switch', closed: true } },
  {
    label: 'dropper diode',
    fromEndM: 0.3,
    value: { kind: 'dropper', count: 1, ratedA: 3, stripe: 'to', labelled: true },
  },
  { label: 'watt meter', fromEndM: 0.3, value: { kind: 'meter' } },
  { label: 'common-mode choke', fromEndM: 0.3, value: { kind: 'choke', turns: 4, cores: 4 } },
] as const
