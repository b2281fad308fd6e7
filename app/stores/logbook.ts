import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { TriedCure } from '#core/noise/cure'
import { merged, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { Survey } from '#core/noise/survey'
import { noiseApi, type ApiError } from './stationsApi'

/** Pause after a change before it is saved, ms: one save for a run of digits. */
const SAVE_AFTER_MS = 300

/** The open station's noise logbook: changed as a value, saved whole as one works. */
export const useLogbook = defineStore('logbook', () => {
  const stationId = ref('')
  const logbook = shallowRef<Logbook | null>(null)
  const tried = shallowRef<TriedCure[]>([])
  const problem = ref('')
  const notice = ref('')
  const saveState = ref<'saved' | 'unsaved' | 'saving'>('saved')
  let revision = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let saving: Promise<void> | null = null

  async function open(id: string) {
    if (stationId.value === id && logbook.value) return
    await saveNow()
    logbook.value = null
    try {
      const state = await noiseApi.read(id)
      stationId.value = id
      logbook.value = state.logbook
      revision = state.revision
      problem.value = ''
      void refreshTried()
    } catch (error) {
      problem.value = (error as ApiError).message
    }
  }
  async function refreshTried() {
    tried.value = await noiseApi.tried().catch(() => tried.value)
  }

  function change(next: Logbook) {
    logbook.value = next
    saveState.value = 'unsaved'
    clearTimeout(timer)
    timer = setTimeout(() => void saveNow(), SAVE_AFTER_MS)
  }

  async function saveNow(): Promise<void> {
    clearTimeout(timer)
    if (saving) await saving
    const sent = logbook.value
    if (!sent || saveState.value === 'saved') return
    saveState.value = 'saving'
    saving = send(sent).finally(() => (saving = null))
    await saving
  }
  async function send(sent: Logbook) {
    try {
      const result = await noiseApi.save(stationId.value, revision, sent)
      revision = result.revision
      if (result.status === 'conflict') {
        notice.value = 'The logbook was changed in another window as well: both are kept.'
        change(merged(logbook.value ?? sent, result.logbook))
        return
      }
      problem.value = ''
      saveState.value = logbook.value === sent ? 'saved' : 'unsaved'
      if (saveState.value === 'unsaved') timer = setTimeout(() => void saveNow(), SAVE_AFTER_MS)
    } catch (error) {
      // What was typed stays; it is tried again.
      saveState.value = 'unsaved'
      problem.value = `Not saved yet: ${(error as ApiError).message}`
      timer = setTimeout(() => void saveNow(), 2000)
    }
  }

  /** Puts a changed survey or case in the place of the one with its id, or at the end. */
  function put(list: 'surveys' | 'cases', item: Survey | NoiseCase) {
    if (!logbook.value) return
    const items = logbook.value[list] as (Survey | NoiseCase)[]
    change({
      ...logbook.value,
      [list]: items.some(i => i.id === item.id) ? items.map(i => (i.id === item.id ? item : i)) : [...items, item],
    })
  }
  function remove(list: 'surveys' | 'cases', id: string) {
    if (logbook.value)
      change({ ...logbook.value, [list]: (logbook.value[list] as { id: string }[]).filter(i => i.id !== id) })
  }
  return { logbook, tried, problem, notice, saveState, open, change, put, remove, saveNow, refreshTried }
})
