import { useRoute, type RouteLocationRaw } from 'vue-router'
import { useStation } from '../stores/station'

/**
 * Where the views of the station in the address are, each in the way that is looked at. They lead there before the
 * station has come from the server, too.
 */
export function useViews() {
  const route = useRoute()
  const station = useStation()
  /** @param view empty for the path itself */
  return (view: string): RouteLocationRaw => {
    const id = String(route.params.id)
    const way = station.id === id ? station.way : route.query.way
    return { path: `/station/${id}${view && `/${view}`}`, query: way ? { way } : {} }
  }
}
