import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { applyEdit, difference, type Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import type { Fix } from '#core/verdict/fixes'
import type { Judged } from '../workers/answers'
import { useShelf } from './shelf'
import { CoreClient } from '../workers/client'
import { ApiError, stationsApi, type StationPlan } from './stationsApi'

interface Step {
  label: string
  patch: Patch
  undo: Patch
}
export type SaveState = 'saved' | 'saving' | 'unsaved' | 'conflict' | 'offline'

/** Pause after an edit before it is saved, ms: one save for a burst of keys. */
const SAVE_AFTER_MS = 250
/** Findings whose fixes are worked out without being asked. */
const FIXES_AHEAD = 40

/** The open plan: edited by patches with undo, judged in a worker, saved as one works. */
export const useStation = defineStore('station', () => {
  const id = ref('')
  const plan = shallowRef<Plan | null>(null)
  const revision = ref(0)
  const savedAt = ref('')
  const saveState = ref<SaveState>('saved')
  const saveProblem = ref('')
  const theirs = shallowRef<StationPlan | null>(null)
  const undoStack = shallowRef<Step[]>([])
  const redoStack = shallowRef<Step[]>([])
  const judged = shallowRef<Judged | null>(null)
  const fixes = shallowRef<ReadonlyMap<string, Fix[]>>(new Map())
  /** Time from the last edit to its verdict, ms: read by the benchmark. */
  const lastVerdictMs = ref(0)

  const shelf = useShelf()
  const judge = new CoreClient()
  const mender = new CoreClient()
  judge.warm()
  mender.warm()
  let version = 0

  async function rejudge() {
    const current = plan.value
    if (!current) return
    const mine = ++version
    const start = performance.now()
    const result = await judge.call('judge', current)
    if (mine !== version) return
    judged.value = result
    lastVerdictMs.value = performance.now() - start
    void mendAll(mine, current, result)
  }

  /** Works out the fixes of every finding, worst first, and gives up when the plan has changed meanwhile. */
  async function mendAll(mine: number, current: Plan, result: Judged) {
    if (mender.isBusy) mender.restart()
    const found = new Map<string, Fix[]>()
    await mender.call('judge', current, shelf.items)
    for (const finding of result.verdict.findings.slice(0, FIXES_AHEAD)) {
      if (mine !== version) return
      found.set(finding.key, await mender.call('fixes', finding.key))
      if (mine !== version) return
      fixes.value = new Map(found)
    }
    if (!result.verdict.findings.length) fixes.value = found
  }

  function show(station: StationPlan) {
    id.value = station.id
    plan.value = station.plan
    revision.value = station.revision
    savedAt.value = station.savedAt
    saveState.value = 'saved'
    saveProblem.value = ''
    theirs.value = null
    undoStack.value = []
    redoStack.value = []
    judged.value = null
    fixes.value = new Map()
    void rejudge()
    void shelf.load()
  }

  async function open(stationId: string) {
    if (saveState.value === 'unsaved') await saveNow()
    show(await stationsApi.read(stationId))
  }

  /** Applies a patch as one step that can be undone. @returns the faults that refuse it, none if it was taken */
  function edit(patch: Patch, label: string): Fault[] {
    if (!plan.value || !patch.length) return []
    const result = applyEdit(plan.value, patch)
    if (!result.ok) return result.faults
    undoStack.value = [...undoStack.value, { label, patch, undo: result.undo }]
    redoStack.value = []
    replace(result.plan)
    return []
  }

  function replace(next: Plan) {
    plan.value = next
    void rejudge()
    queueSave()
  }

  /** Moves the last step of one stack to the other, and applies it. @returns its label, null where there is none */
  function shift(from: typeof undoStack, onto: typeof undoStack, patchOf: (step: Step) => Patch): string | null {
    const step = from.value.at(-1)
    if (!step || !plan.value) return null
    const result = applyEdit(plan.value, patchOf(step))
    if (!result.ok) return null
    from.value = from.value.slice(0, -1)
    onto.value = [...onto.value, step]
    replace(result.plan)
    return step.label
  }
  const undo = () => shift(undoStack, redoStack, step => step.undo)
  const redo = () => shift(redoStack, undoStack, step => step.patch)

  let timer: ReturnType<typeof setTimeout> | undefined
  let saving: Promise<void> | null = null

  function queueSave() {
    if (saveState.value === 'conflict') return
    saveState.value = 'unsaved'
    clearTimeout(timer)
    timer = setTimeout(() => void saveNow(), SAVE_AFTER_MS)
  }

  /** Saves what is not yet saved. One save at a time; what was edited meanwhile goes with the next. */
  async function saveNow(): Promise<void> {
    clearTimeout(timer)
    if (saving) {
      await saving
      if (saveState.value !== 'unsaved') return
    }
    const sent = plan.value
    if (!sent || saveState.value === 'saved' || saveState.value === 'conflict') return
    saveState.value = 'saving'
    saving = send(sent).finally(() => {
      saving = null
    })
    await saving
  }

  async function send(sent: Plan) {
    try {
      const result = await stationsApi.save(id.value, revision.value, sent, undoStack.value.at(-1)?.label ?? '')
      if (result.status === 'conflict') {
        theirs.value = result.current
        saveState.value = 'conflict'
        return
      }
      revision.value = result.revision
      savedAt.value = result.savedAt
      saveProblem.value = ''
      saveState.value = plan.value === sent ? 'saved' : 'unsaved'
      if (saveState.value === 'unsaved') queueSave()
    } catch (error) {
      saveState.value = 'offline'
      saveProblem.value = error instanceof ApiError ? error.message : String(error)
      timer = setTimeout(() => {
        if (saveState.value === 'offline') {
          saveState.value = 'unsaved'
          void saveNow()
        }
      }, 2000)
    }
  }

  /**
   * Settles a conflict: mine goes on top of theirs (which stays in the history), or theirs is taken, with mine one undo
   * away.
   */
  async function settle(keep: 'mine' | 'theirs') {
    const other = theirs.value
    const mine = plan.value
    if (!other || !mine) return
    theirs.value = null
    revision.value = other.revision
    savedAt.value = other.savedAt
    if (keep === 'mine') {
      saveState.value = 'unsaved'
      await saveNow()
      return
    }
    undoStack.value = [
      ...undoStack.value,
      {
        label: "take the other window's plan",
        patch: difference(mine, other.plan),
        undo: difference(other.plan, mine),
      },
    ]
    redoStack.value = []
    plan.value = other.plan
    saveState.value = 'saved'
    void rejudge()
  }

  /** When the window comes back: takes over what another window saved, if nothing here is unsaved. */
  async function refresh() {
    if (!id.value || saveState.value !== 'saved') return
    const current = await stationsApi.read(id.value).catch(() => null)
    if (current && current.revision > revision.value && saveState.value === 'saved') show(current)
  }

  async function goBackTo(number: number): Promise<Fault[]> {
    const old = await stationsApi.revision(id.value, number)
    return plan.value ? edit(difference(plan.value, old.plan), `back to revision ${number}`) : []
  }

  return {
    id,
    plan,
    revision,
    savedAt,
    saveState,
    saveProblem,
    theirs,
    judged,
    fixes,
    lastVerdictMs,
    canUndo: computed(() => undoStack.value.at(-1)?.label ?? ''),
    canRedo: computed(() => redoStack.value.at(-1)?.label ?? ''),
    core: judge,
    open,
    edit,
    undo,
    redo,
    saveNow,
    settle,
    refresh,
    goBackTo,
  }
})
