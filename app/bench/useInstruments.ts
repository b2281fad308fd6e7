import { computed, onBeforeUnmount, reactive, ref } from 'vue'
import type { Channel, Heard } from '#core/instruments/protocol'
import { instrumentsApi } from '../stores/stationsApi'
import type { ApiError } from '../stores/request'

/** Of so many figures the middle one is what an instrument shows. */
const MIDDLE_OF = 5
const SETTLED = 3

export interface Showing extends Channel {
  /** The middle of its last figures; null: it shows nothing. */
  value: number | null
  /** It has shown as many as it takes since something was switched. */
  settled: boolean
}

/** What each channel showed last. */
function useFigures() {
  const channels = reactive(new Map<string, Channel>())
  const lasts = reactive(new Map<string, (number | null)[]>())
  const shows = computed((): Showing[] =>
    [...channels.values()].map(channel => {
      const values = lasts.get(channel.id) ?? []
      const figures = values.filter(v => v !== null).sort((a, b) => a - b)
      return { ...channel, value: figures[figures.length >> 1] ?? null, settled: figures.length >= SETTLED }
    }),
  )
  return {
    shows,
    begin(channel: Channel) {
      channels.set(channel.id, channel)
      lasts.delete(channel.id)
    },
    add: (id: string, value: number | null) => lasts.set(id, [...(lasts.get(id) ?? []), value].slice(-MIDDLE_OF)),
    /** What was shown before is of before. */
    forget: () => lasts.clear(),
    clear() {
      channels.clear()
      lasts.clear()
    },
  }
}

/** Instruments that are listened to over the gateway: what they show now, and what may be asked of them. */
export function useInstruments() {
  const port = ref<number | null>(null)
  const session = ref('')
  const simulated = ref(false)
  const condition = ref<string | null>(null)
  const problem = ref('')
  const figures = useFigures()
  let source: EventSource | null = null

  function hear(heard: Heard) {
    if (heard.is === 'session') session.value = heard.id
    if (heard.is === 'simulated') simulated.value = true
    if (heard.is === 'channel') figures.begin(heard.channel)
    if (heard.is === 'read') figures.add(heard.channel, heard.value)
    if (heard.is === 'state') {
      condition.value = heard.condition
      figures.forget()
    }
    if (heard.is === 'error') problem.value = heard.words
    if (heard.is === 'aside') problem.value = `A line was left aside: ${heard.wrong}`
    if (heard.is === 'gone') close(`Not listening any more: ${heard.why}.`)
  }

  function listen(at: number) {
    close()
    port.value = at
    source = new EventSource(`/api/instruments?port=${at}`)
    source.onmessage = message => hear(JSON.parse(message.data as string) as Heard)
    source.onerror = () => close('Not listening any more: the server does not answer, or the port is none.')
  }

  function close(why = '') {
    source?.close()
    source = null
    port.value = null
    session.value = ''
    simulated.value = false
    condition.value = null
    figures.clear()
    problem.value = why
  }

  async function simulate(stationId: string, hide: number | null) {
    try {
      listen((await instrumentsApi.simulate(stationId, hide)).port)
    } catch (error) {
      problem.value = (error as ApiError).message
    }
  }

  async function ask(command: string) {
    problem.value = ''
    try {
      await instrumentsApi.ask(session.value, command)
    } catch (error) {
      problem.value = (error as ApiError).message
    }
  }

  onBeforeUnmount(() => close())
  return { port, simulated, condition, problem, shows: figures.shows, listen, close, simulate, ask }
}
