import { ref } from 'vue'

/** How the server stands to this page, as its last answer said. */
export type Reach = 'here' | 'away' | 'shut-out'

export const reach = ref<Reach>('here')
/** Counts what others did to the list of stations. */
export const listChanged = ref(0)

const SHUT_OUT = 401

/** Notes what came of a request; no status: nothing did. */
export function noteAnswer(status?: number) {
  if (status === undefined) reach.value = 'away'
  else reach.value = status === SHUT_OUT ? 'shut-out' : 'here'
}

/** Where it is not at this machine, it is somebody else's to start. */
export const isDevice = () => typeof location !== 'undefined' && location.protocol === 'https:'

export const awayWords = () =>
  isDevice()
    ? 'The station does not answer. What is entered here waits in this device.'
    : 'The server does not answer. Start it again with ./run demo; nothing typed here is lost.'
