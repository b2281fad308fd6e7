import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { usePreferences } from './preferences'
import { reach } from './reach'
import { useStation } from './station'
import { useSavedOnLeave } from './useSavedOnLeave'

/** Opens a station for a view, if it is not open yet; `missing` says why it cannot be, `trouble` what is lost. */
export function useOpenStation(stationId: string) {
  const station = useStation()
  const preferences = usePreferences()
  const missing = ref('')
  const trouble = ref('')
  async function open() {
    try {
      trouble.value = await station.open(stationId)
      missing.value = ''
      preferences.chosen.lastStation = stationId
    } catch (error) {
      missing.value = (error as Error).message
    }
  }
  onMounted(open)
  // A server that did not answer in time is asked again as soon as it does.
  watch(reach, now => now === 'here' && missing.value && void open())
  useSavedOnLeave(station)
  // Another window may have saved meanwhile.
  onMounted(() => window.addEventListener('focus', station.refresh))
  onBeforeUnmount(() => window.removeEventListener('focus', station.refresh))
  return { station, missing, trouble }
}

/**
 * Opens what belongs to the station beside its plan, as its logbook; again once the server answers where it did not.
 * @param beside opens nothing that is open already
 */
export function useBeside(station: { id: string }, beside: { open: (stationId: string) => Promise<void> }) {
  watch(
    [() => station.id, reach],
    ([id]) => {
      if (id) void beside.open(id)
    },
    { immediate: true },
  )
}
