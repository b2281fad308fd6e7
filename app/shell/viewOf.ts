import type { RouteLocationRaw } from 'vue-router'
import type { useStation } from '../stores/station'

/** A view of a station, in the way that is looked at. `view` is empty for the path itself. */
export const viewOf = (
  { id, way }: Pick<ReturnType<typeof useStation>, 'id' | 'way'>,
  view: string,
): RouteLocationRaw => ({
  path: `/station/${id}${view && `/${view}`}`,
  query: way ? { way } : {},
})
