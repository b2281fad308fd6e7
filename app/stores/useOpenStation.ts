import { onBeforeUnmount, onMounted, ref } from 'vue'
import { usePreferences } from './preferences'
import { useStation } from './station'
import { useSavedOnLeave } from './useSavedOnLeave'

/** Opens a station for a view, if it is not open yet; `missing` says why it cannot be, `trouble` what is lost. */
export function useOpenStation(stationId: string) {
  const station = useStation()
  const preferences = usePreferences()
  const missing = ref('')
  const trouble = ref('')
  onMounted(async () => {
    try {
      if (station.id !== stationId) trouble.value = await station.open(stationId)
      preferences.chosen.lastStation = stationId
    } catch (error) {
      missing.value = (error as Error).message
    }
  })
  useSavedOnLeave(station)
  // Another window may have saved meanwhile.
  onMounted(() => window.addEventListener('focus', station.refresh))
  onBeforeUnmount(() => window.removeEventListener('focus', station.refresh))
  return { station, missing, trouble }
}
