import { watch } from 'vue'
import { Workbox } from 'workbox-window'
import type { ToastServiceMethods } from 'primevue/toastservice'
import { documentName } from './documents'
import { useHours } from './hours'
import { keepAll } from './keepAll'
import { whenOthersAreGone } from './keptHere'
import { useLog } from './log'
import { useLogbook } from './logbook'
import { isDevice, listChanged, reach } from './reach'
import { sendWaiting } from './sendWaiting'
import { useShelf } from './shelf'
import { useStation } from './station'
import { lanApi } from './stationsApi'

/** While the server is away it is asked for so often, ms. */
const ASK_EVERY_MS = 4000

/** What is open in this window saves itself. */
function isOpen(name: string): boolean {
  const [station, noise, hours, log] = [useStation(), useLogbook(), useHours(), useLog()]
  const open = [
    documentName('plan', station.id),
    documentName('noise', noise.stationId),
    documentName('hours', hours.stationId),
    documentName('log', log.stationId),
    documentName('shelf'),
  ]
  return open.includes(name)
}

/** The pages stay where the net does not reach; a newer program waits until the user wants it. */
async function stayWithoutNet(toast: () => ToastServiceMethods) {
  const worker = new Workbox('/sw.js')
  worker.addEventListener('waiting', () => {
    toast().add({ severity: 'info', summary: 'A newer Wireman is here', detail: 'It opens with the next start.' })
  })
  await worker.register().catch(() => undefined)
}

/** What others save is shown here as they save it. */
interface Change {
  of: 'plan' | 'noise' | 'hours' | 'log' | 'shelf' | 'list' | 'all'
  id?: string
}
function take({ of, id }: Change) {
  const its = { plan: useStation(), noise: useLogbook(), hours: useHours(), log: useLog() }
  const isAll = of === 'all'
  if ((isAll || of === 'plan') && (isAll || its.plan.id === id)) void its.plan.refresh()
  for (const kind of ['noise', 'hours', 'log'] as const)
    if (isAll || (of === kind && its[kind].stationId === id)) void its[kind].follow()
  if (isAll || of === 'shelf') void useShelf().follow()
  if (isAll || of === 'plan' || of === 'list') listChanged.value++
}

/** A window that nobody looks at does not listen: a browser opens few lines to one server. It looks when it is back. */
function hearChanges() {
  let source: EventSource | null = null
  const hear = () => {
    source?.close()
    source = document.visibilityState === 'visible' ? new EventSource('/api/changes') : null
    source?.addEventListener('message', ({ data }) => take(JSON.parse(data as string) as Change))
    // Joined a while after the page was read, and again after it broke off, it has missed what was said meanwhile.
    source?.addEventListener('open', () => take({ of: 'all' }))
  }
  document.addEventListener('visibilitychange', hear)
  hear()
}

/** Follows how the server stands to this page: what waits here is sent when it is back. */
export function followServer(toast: () => ToastServiceMethods) {
  const back = async () => {
    await sendWaiting(isOpen)
    await whenOthersAreGone(quietly)
    await useStation().refresh()
    if (isDevice()) await keepAll()
  }
  const quietly = () => void back().catch(() => undefined)
  const ask = () => void lanApi.me().catch(() => undefined)
  watch(reach, now => {
    if (now === 'here') quietly()
  })
  setInterval(() => {
    if (reach.value === 'away' && document.visibilityState === 'visible') ask()
  }, ASK_EVERY_MS)
  window.addEventListener('online', ask)
  quietly()
  hearChanges()
  if (isDevice()) void stayWithoutNet(toast)
}
