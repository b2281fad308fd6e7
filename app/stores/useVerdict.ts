import { computed, ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import type { Plan } from '#core/plan/schema'
import type { ShelfItem } from '#core/shelf/item'
import type { Fix } from '#core/verdict/fixes'
import { afterDrawn } from '../shell/afterDrawn'
import type { Judged } from '../workers/answers'
import { CoreClient, Dropped } from '../workers/client'

/** A verdict that takes longer is told to be on its way, ms. */
const SLOW_MS = 1000

/** Where an edit came before the fixes of the last were worked out, the next are begun once the hand rests, ms. */
const RESTS_MS = 400

export interface VerdictOfPlan {
  judged: ShallowRef<Judged | null>
  fixes: ShallowRef<ReadonlyMap<string, Fix[]>>
  /**
   * Why there is no verdict of the plan as it stands: what is shown is of an earlier one. Empty where it is of
   * this one.
   */
  problem: Ref<string>
  /** It takes longer than one waits for: what is shown meanwhile is of an earlier plan. */
  isSlow: Ref<boolean>
  /** The first one is about to come: what stands below it would move under a finger, and is not shown yet. */
  isNear: Readonly<Ref<boolean>>
  /** Time from the last edit to its verdict, ms: read by the benchmark. */
  lastMs: Ref<number>
  core: CoreClient
  judge: (plan: Plan) => Promise<void>
  forget: () => void
}

/**
 * The verdict of a plan and the fixes of its findings, each from a worker of its own, so that fixes never hold an
 * edit up. A worker that
 * throws, dies or is silent for too long is started anew, and the verdict says that it was not made.
 */
export function useVerdict(shelf: () => ShelfItem[]): VerdictOfPlan {
  const judged = shallowRef<Judged | null>(null)
  const problem = ref('')
  const isSlow = ref(false)
  const lastMs = ref(0)
  const core = new CoreClient()
  core.warm()
  const mending = useMending(shelf)
  let version = 0

  async function judge(plan: Plan) {
    const mine = ++version
    const start = performance.now()
    // Asked for first: to end what is being mended takes a while itself.
    const asked = core.call('judge', plan)
    mending.stop()
    const late = setTimeout(() => (isSlow.value = mine === version), SLOW_MS)
    try {
      const result = await asked
      if (mine !== version) return
      judged.value = result
      problem.value = ''
      lastMs.value = performance.now() - start
      mending.start(plan, result)
    } catch (error) {
      if (mine === version && !(error instanceof Dropped)) problem.value = (error as Error).message
    } finally {
      clearTimeout(late)
      if (mine === version) isSlow.value = false
    }
  }

  function forget() {
    version++
    mending.stop()
    judged.value = null
    problem.value = ''
    isSlow.value = false
  }
  const isNear = computed(() => !judged.value && !problem.value)
  return { judged, fixes: mending.fixes, problem, isSlow, isNear, lastMs, core, judge, forget }
}

/** Fixes of the findings of a verdict: of that plan alone, for they say where they write by its numbers. */
function useMending(shelf: () => ShelfItem[]) {
  const fixes = shallowRef<ReadonlyMap<string, Fix[]>>(new Map())
  const mender = new CoreClient()
  mender.warm()
  let turn = 0
  let letGo = () => {}
  let isHurried = false

  /** The processor belongs to the edit: its picture comes first, and in a run of edits each picture. */
  function start(plan: Plan, judged: Judged) {
    stop()
    const mine = turn
    const begin = () => void mendAll(mine, plan, judged)
    letGo = afterDrawn(isHurried ? rest(begin) : begin)
  }

  const rest = (begin: () => void) => () => {
    const timer = setTimeout(begin, RESTS_MS)
    letGo = () => clearTimeout(timer)
  }

  function stop() {
    turn++
    letGo()
    if (mender.isBusy) {
      mender.restart()
      isHurried = true
    }
    fixes.value = new Map()
  }

  /** Works out the fixes of every finding, worst first. */
  async function mendAll(mine: number, plan: Plan, { verdict }: Judged) {
    const found = new Map<string, Fix[]>()
    try {
      await mender.call('judge', plan, shelf())
      for (const finding of verdict.findings) {
        if (mine !== turn) return
        const mends = await mender.call('fixes', finding.key).catch(noneWorkedOut)
        if (mine !== turn) return
        found.set(finding.key, mends)
        fixes.value = new Map(found)
      }
    } catch {
      // The verdict stands; it is shown without fixes.
    }
    if (mine !== turn) return
    fixes.value = found
    isHurried = false
  }
  return { fixes, start, stop }
}

/** A finding whose fixes cannot be worked out is shown without any; a worker that was let go is another matter. */
function noneWorkedOut(error: unknown): Fix[] {
  if (error instanceof Dropped) throw error
  return []
}
