import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { lanApi, type DeviceRow, type LanTold } from '../stores/stationsApi'

/** While a code is shown it is looked so often whether somebody has used it, ms. */
const LOOK_EVERY_MS = 2000

export interface Invitation {
  code: string
  urls: string[]
  untilMs: number
}

/** Devices that may come in from the local net, and letting one more in. */
export function useDevices() {
  const told = ref<(LanTold & { devices: DeviceRow[] }) | null>(null)
  const invitation = ref<Invitation | null>(null)
  const nowMs = ref(Date.now())
  const wrong = ref('')
  /** Who has come in while the code was shown. */
  const letIn = ref('')
  let timer: ReturnType<typeof setInterval> | undefined

  const trying = async (work: () => Promise<unknown>) => {
    try {
      await work()
      wrong.value = ''
    } catch (error) {
      wrong.value = (error as Error).message
    }
  }

  async function load() {
    const before = new Set(told.value?.devices.map(d => d.id))
    const isFirst = !told.value
    told.value = await lanApi.read()
    const fresh = told.value.devices.find(d => !before.has(d.id))
    if (isFirst || !fresh || !invitation.value) return
    letIn.value = fresh.name
    invitation.value = null
  }

  const invite = () =>
    trying(async () => {
      letIn.value = ''
      const { code, urls, until } = await lanApi.code()
      invitation.value = { code, urls, untilMs: Date.parse(until) }
    })

  const turn = (on: boolean) =>
    trying(async () => {
      invitation.value = null
      await lanApi.turn(on)
      await load()
      if (on && told.value?.urls.length) await invite()
    })

  const revoke = (id: string) =>
    trying(async () => {
      await lanApi.revoke(id)
      await load()
    })

  onMounted(() => {
    void trying(load)
    timer = setInterval(() => {
      nowMs.value = Date.now()
      if (invitation.value && invitation.value.untilMs <= nowMs.value) invitation.value = null
      if (invitation.value) void load().catch(() => undefined)
    }, LOOK_EVERY_MS)
  })
  onBeforeUnmount(() => clearInterval(timer))

  const secondsLeft = computed(() =>
    invitation.value ? Math.min(300, Math.max(0, Math.round((invitation.value.untilMs - nowMs.value) / 1000))) : 0,
  )
  return { told, invitation, secondsLeft, letIn, wrong, invite, turn, revoke }
}
