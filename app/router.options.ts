import type { RouterConfig } from '@nuxt/schema'
import { fetched } from './shell/later'

type Program = () => Promise<unknown>

/** A view that is asked for while the server is away opens once it answers. */
export default {
  routes: routes =>
    routes.map(route => {
      const load = route.component
      return typeof load === 'function' ? { ...route, component: () => fetched(load as Program) } : route
    }),
} as RouterConfig
