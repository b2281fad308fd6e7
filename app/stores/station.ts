import { defineStore } from 'pinia'
import { computed, ref, watch, type Ref } from 'vue'
import { applyEdit, difference, type Patch } from '#core/edit/patch'
import { editInVariant, inVariant } from '#core/edit/variants'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { DOCUMENTS, documentName } from './documents'
import { useShelf } from './shelf'
import { stationsApi, type StationPlan } from './stationsApi'
import { NOTHING_DONE, useHistory, type History } from './useHistory'
import { useSavedDocument, type SavedDocument, type SavedDocumentOptions } from './useSavedDocument'
import { useVerdict, type VerdictOfPlan } from './useVerdict'

type PlanDocument = SavedDocument<Plan, StationPlan>
type PlanHistory = History

function appliedTo(plan: Plan, patch: Patch) {
  const made = applyEdit(plan, patch)
  return made.ok ? { ok: true as const, value: made.plan, undo: made.undo } : made
}

/** How a plan is saved: to its station, with the last edit as its note. */
const savingOf = (
  now: () => { id: string; note: string; way: string | null } & Pick<Parts, 'history' | 'verdict'>,
  clashes: Ref<readonly string[]>,
): SavedDocumentOptions<Plan, StationPlan> => ({
  send: async (plan, baseRevision) => {
    const { id, note } = now()
    const result = await stationsApi.save(id, baseRevision, plan, note)
    if (result.status === 'saved') return result
    return { status: 'conflict', revision: result.current.revision, theirs: result.current }
  },
  // What both changed in two ways the user settles, and what makes no plan together.
  onConflict: (theirs, mine, base) => {
    const { value, clashes: both } = DOCUMENTS.plan.merge(base, mine, theirs.plan)
    clashes.value = both
    if (!value) return null
    const { history, verdict, way } = now()
    history.note(differenceStep("another window's changes", mine, value))
    void verdict.judge(inVariant(value, way))
    return value
  },
  valueIn: theirs => theirs.plan,
})

/** The open plan: edited by patches with undo, judged in a worker, saved as one works. */
export const useStation = defineStore('station', () => {
  const id = ref('')
  const shelf = useShelf()
  const clashes = ref<readonly string[]>([])
  const now = () => ({ id: id.value, note: history.undoable.value.canUndo, history, verdict, way: way.value })
  const document: PlanDocument = useSavedDocument(savingOf(now, clashes))
  const verdict = useVerdict(() => shelf.items)
  /** The way of the station that is looked at and edited; null: the plan itself. */
  const way = ref<string | null>(null)
  /** The station that a view asks for: until it has come nothing is shown, and so nothing changed, of another. */
  const askedFor = ref('')
  const whole = computed(() => (askedFor.value === id.value ? document.value.value : null))
  const plan = computed(() => whole.value && inVariant(whole.value, way.value))
  const history: PlanHistory = useHistory<Plan>({
    value: () => document.value.value,
    replace: next => {
      document.change(next)
      void verdict.judge(inVariant(next, way.value))
    },
    apply: appliedTo,
  })
  watch(way, () => plan.value && void verdict.judge(plan.value))

  const { open, refresh } = openingOf({ id, askedFor, plan, document, history, verdict })

  async function goBackTo(number: number): Promise<Fault[]> {
    const old = await stationsApi.revision(id.value, number)
    const now = document.value.value
    return now ? history.edit(difference(now, old.plan), `back to revision ${number}`) : []
  }

  return {
    id,
    plan,
    /** The whole document: the plan with all its ways. */
    whole,
    way,
    ...documentOf(document),
    /** What this window and another both changed in two ways: places as a merge tells them. */
    clashes,
    judged: computed(() => plan.value && verdict.judged.value),
    fixes: verdict.fixes,
    verdictProblem: verdict.problem,
    isVerdictSlow: verdict.isSlow,
    isVerdictNear: verdict.isNear,
    lastVerdictMs: verdict.lastMs,
    core: verdict.core,
    undoable: computed(() => (whole.value ? history.undoable.value : NOTHING_DONE)),
    edit: (patch: Patch, label: string) => editIn(way.value, { document, history, verdict }, { patch, label }),
    editWhole: history.edit,
    open,
    settle: (keep: 'mine' | 'theirs') => settle(keep, { document, history, verdict }),
    refresh,
    goBackTo,
  }
})

/** Opening a station, and following what another window makes of it. */
function openingOf({ id, askedFor, plan, document, history, verdict }: Parts & Opening) {
  const shelf = useShelf()

  function begin(stationId: string) {
    id.value = stationId
    history.begin(stationId)
    verdict.forget()
    if (plan.value) void verdict.judge(plan.value)
    void shelf.load()
  }

  let opening: { stationId: string; ended: Promise<string> } | null = null

  /** Two views that follow each other open it once. @returns what of it cannot be read any more */
  function open(stationId: string): Promise<string> {
    askedFor.value = stationId
    if (id.value === stationId && !opening) return Promise.resolve('')
    if (opening?.stationId === stationId) return opening.ended
    const mine = { stationId, ended: readIn(stationId).finally(() => opening === mine && (opening = null)) }
    opening = mine
    return mine.ended
  }

  async function readIn(stationId: string): Promise<string> {
    await document.saveNow()
    const found = (s: StationPlan) => ({ theirs: s, revision: s.revision, savedAt: s.savedAt })
    const name = documentName('plan', stationId)
    const { trouble } = await document.open(name, () => stationsApi.read(stationId), found)
    if (document.name.value === name) begin(stationId)
    return trouble ?? ''
  }

  /** When the window comes back: takes over what another window saved, if nothing here is unsaved. */
  async function refresh() {
    if (!id.value || document.state.value !== 'saved') return
    const current = await stationsApi.read(id.value).catch(() => null)
    if (!current || current.revision <= document.revision.value || document.state.value !== 'saved') return
    const was = document.value.value
    document.show(current.plan, current.revision, current.savedAt)
    if (was) history.note(differenceStep("another window's changes", was, current.plan))
    if (plan.value) void verdict.judge(plan.value)
  }
  return { open, refresh }
}

const differenceStep = (label: string, was: Plan, is: Plan) => ({
  label,
  patch: difference(was, is),
  undo: difference(is, was),
})

interface Opening {
  id: Ref<string>
  askedFor: Ref<string>
  plan: Ref<Plan | null>
}

interface Parts {
  document: PlanDocument
  history: PlanHistory
  verdict: VerdictOfPlan
}

/** An edit of the way that is looked at: kept as what is other in it. */
function editIn(
  way: string | null,
  { document, history, verdict }: Parts,
  { patch, label }: { patch: Patch; label: string },
): Fault[] {
  const whole = document.value.value
  const isWay = whole?.variants?.some(v => v.id === way)
  if (!whole || way === null || !isWay) return history.edit(patch, label)
  if (!patch.length) return []
  const made = editInVariant(whole, way, patch)
  if (!made.ok) return made.faults
  const step = { label, patch: difference(whole, made.plan), undo: made.undo }
  document.change(made.plan)
  history.note(step)
  void verdict.judge(inVariant(made.plan, way))
  return []
}

/** How the plan stands with the server, as the page shows it. */
const documentOf = ({ revision, savedAt, state, problem, theirs, saveNow }: PlanDocument) => ({
  revision,
  savedAt,
  saveState: state,
  saveProblem: problem,
  theirs,
  saveNow,
})

/**
 * Settles a conflict: mine goes on top of theirs (which stays in the history), or theirs is taken, with mine one undo
 * away.
 */
async function settle(keep: 'mine' | 'theirs', { document, history, verdict }: Parts) {
  const other = document.theirs.value
  const mine = document.value.value
  if (!other || !mine) return
  document.show(other.plan, other.revision, other.savedAt)
  if (keep === 'mine') {
    document.change(mine)
    await document.saveNow()
    return
  }
  history.note(differenceStep("take the other window's plan", mine, other.plan))
  void verdict.judge(other.plan)
}
