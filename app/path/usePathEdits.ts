import { computed, ref, type Ref } from 'vue'
import { useToast } from 'primevue/usetoast'
import type { Loose } from '#core/edit/join'
import type { Patch } from '#core/edit/patch'
import { leadById, nameOf, partById, partIdOf } from '#core/plan/find'
import { terminalName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import { counted } from '#core/units/words'
import { fetched, notYet } from '../shell/later'
import type { useStation } from '../stores/station'

const joins = notYet(() => import('#core/edit/join'))
const takingOut = notYet(() => import('#core/edit/takeOut'))

/** What is being joined elsewhere: the end that was grabbed, and onto which part, where a hand said so. */
export interface Joining {
  id: string
  end?: 'from' | 'to'
  onto?: string
}

/** What is chosen in the path, one or several, and what is done to it; everything is said, and can be taken back. */
export function usePathEdits(station: ReturnType<typeof useStation>, selected: Ref<string | null>) {
  const toast = useToast()
  /** Further ones that are marked. */
  const marked = ref<ReadonlySet<string>>(new Set())
  /** A part that something hangs on, while it is asked what becomes of that. */
  const asking = ref<string | null>(null)
  const joining = ref<Joining | null>(null)
  /** What is being copied to another station. */
  const copying = ref<readonly string[] | null>(null)

  const idOf = (at: string) => (leadById(station.plan!, at) ? at : partIdOf(at))
  const chosen = computed<string[]>(() => {
    if (!station.plan) return []
    const ids = [...marked.value, ...(selected.value ? [idOf(selected.value)] : [])]
    return [...new Set(ids)].filter(thereIn(station.plan))
  })

  function said(patch: Patch, label: string, detail = 'Ctrl Z takes it back.'): boolean {
    const [fault] = station.edit(patch, label)
    const words = fault
      ? { severity: 'error' as const, summary: 'Not done', detail: `${fault.wrong}; right would be ${fault.right}` }
      : { severity: 'secondary' as const, summary: label.charAt(0).toUpperCase() + label.slice(1), detail }
    toast.add({ ...words, life: fault ? 7000 : 3500 })
    return !fault
  }

  function mark() {
    if (!selected.value) return
    const id = idOf(selected.value)
    const next = new Set(marked.value)
    if (!next.delete(id)) next.add(id)
    marked.value = next
  }

  async function removeChosen(asked = chosen.value) {
    const { hangsOn, takeAllOut, takeOut } = await fetched(takingOut)
    // Whoever asked twice while the program came has it gone once.
    const ids = asked.filter(thereIn(station.plan))
    const { plan } = station
    if (!plan || !ids.length) return
    const only = ids.length === 1 ? ids[0]! : null
    if (only && hangsOn(plan, only).length) {
      asking.value = only
      return
    }
    if (only) said(takeOut(plan, only), `remove ${nameOf(leadById(plan, only) ?? partById(plan, only)!)}`)
    else said(takeAllOut(plan, ids), `remove ${counted(ids.length, 'thing')}`)
    marked.value = new Set()
  }

  function startJoining() {
    if (chosen.value.length === 1) joining.value = { id: chosen.value[0]! }
  }

  async function joined(what: Loose | { partId: string }, terminal: string) {
    joining.value = null
    const { join } = await fetched(joins)
    const { plan } = station
    const item = plan && ('partId' in what ? partById(plan, what.partId) : leadById(plan, what.lead.id))
    if (!item) return
    said(join(plan, what, terminal), `${nameOf(item)} onto ${terminalName(plan, terminal)}`)
  }

  const markPressed = markingBy(id => {
    if (selected.value && !marked.value.size) mark()
    selected.value = id
    mark()
    // One that is marked no longer is not chosen either.
    if (!marked.value.has(id)) selected.value = [...marked.value].at(-1) ?? null
  })

  return { marked, chosen, asking, joining, copying, said, mark, markPressed, removeChosen, startJoining, joined }
}

const thereIn = (plan: Plan | null) => (id: string) => !!plan && !!(partById(plan, id) ?? leadById(plan, id))

/** Shift or Ctrl with a press marks one more, and does nothing else: neither focus nor the press go on. */
const markingBy = (markOne: (id: string) => void) => (event: MouseEvent) => {
  if (!event.shiftKey && !event.ctrlKey && !event.metaKey) return
  const element = (event.target as Element).closest('[data-lead], [data-part]')
  const id = element?.getAttribute('data-lead') ?? element?.getAttribute('data-part')
  if (!id) return
  event.stopPropagation()
  event.preventDefault()
  if (event.type === 'mousedown') markOne(id)
}
