import { ref, type Ref } from 'vue'

/** What a key or a button of the path asked for beside the path's own edits. */
interface Beside {
  /** What is edited, in a panel that leaves the keys to the path once it is there. */
  editing: Ref<string | null>
  joining: Ref<object | null>
  asking: Ref<string | null>
  copying: Ref<readonly string[] | null>
}

const EDIT_PANEL = 'section.edit'

/**
 * The dialogs of the path, and whether one of them was asked for: its program may still be on its way, and a key that
 * is meant for it must not act on the plan meanwhile.
 */
export function useAsked({ editing, joining, asking, copying }: Beside) {
  const adding = ref(false)
  const sizing = ref(false)
  const mending = ref(false)
  /** What is looked for; null while nothing is. It grows by what is typed before its field is there. */
  const sought = ref<string | null>(null)

  const ofADialog = [sought, asking, copying, joining]
  const hasDialog = () => adding.value || sizing.value || mending.value || ofADialog.some(asked => asked.value !== null)
  const isAsked = () => hasDialog() || (editing.value !== null && !document.querySelector(EDIT_PANEL))

  /** Whether the letter is meant for what is looked for. */
  function typedAhead(letter: string): boolean {
    if (sought.value === null) return false
    sought.value += letter
    return true
  }
  /** None of them is wanted any longer; says whether one was. */
  function closeDialogs(): boolean {
    const had = hasDialog()
    adding.value = sizing.value = mending.value = false
    for (const asked of ofADialog) asked.value = null
    return had
  }
  return { adding, sizing, mending, sought, closeDialogs, keysAhead: { isAsked, typedAhead } }
}
