import { onBeforeUnmount, ref, shallowRef } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import type { Plan } from '#core/plan/schema'
import { CoreClient, Dropped, startHours } from '../workers/client'
import type { CourseAnswer, HoursApi } from '../workers/hoursAnswers'

/** So many weathers are drawn for the odds. */
const RUNS = 300
const SEED = 1
/** A finger that has not moved for so long rests. */
const RESTS_MS = 120

/** The course of a plan through an event, worked out beside the page: always of what was asked last. */
export function useCourse() {
  const client = new CoreClient<HoursApi>(startHours)
  const answer = shallowRef<CourseAnswer | null>(null)
  const odds = shallowRef<ReturnType<HoursApi['odds']>>(null)
  /** How far the odds are, 0–1; null while none are asked for. */
  const progress = ref<number | null>(null)
  const problem = ref('')
  let asked = 0
  let underWay: Promise<unknown> | null = null
  client.onProgress = done => {
    if (progress.value !== null) progress.value = done / 100
  }

  /**
   * While one is under way only the last of those that come meanwhile is asked next.
   * @param isDragged only a size goes to and fro under a finger: its line moves at once, and is exact once it rests
   */
  async function ask(plan: Plan, event: HoursEvent, isDragged = false) {
    const mine = ++asked
    stopOdds()
    await underWay
    if (mine !== asked) return
    if (isDragged && answer.value?.ok) {
      underWay = client.call('near', plain(plan)).then(near => near && show(near), failed)
      await underWay
      await new Promise(resolve => setTimeout(resolve, RESTS_MS))
      if (mine !== asked) return
    }
    underWay = client.call('course', plain(plan), plain(event)).then(show, failed)
    await underWay
  }
  function show(got: CourseAnswer) {
    problem.value = ''
    answer.value = got
    odds.value = null
  }

  async function askOdds() {
    progress.value = 0
    odds.value = await client.call('odds', RUNS, SEED).catch(failed)
    progress.value = null
  }

  function stopOdds() {
    if (progress.value === null) return
    client.restart()
    progress.value = null
    answer.value = null
  }

  function failed(error: Error): null {
    if (!(error instanceof Dropped)) problem.value = error.message
    return null
  }
  onBeforeUnmount(() => client.restart())
  return { answer, odds, progress, problem, ask, askOdds, stopOdds }
}

const plain = <T>(value: T) => JSON.parse(JSON.stringify(value)) as T
