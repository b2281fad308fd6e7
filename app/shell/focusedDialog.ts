import Dialog from 'primevue/dialog'

interface OpenDialog {
  content?: HTMLElement
}
const { methods } = Dialog as unknown as { methods: { focus: (this: OpenDialog) => void } }

/**
 * The library's dialog takes the focus once it has faded in. Whoever is typing in it by then keeps it: else the letters
 * go nowhere, and Enter closes it.
 */
export default {
  ...(Dialog as object),
  methods: {
    ...methods,
    focus(this: OpenDialog) {
      if (!this.content?.contains(document.activeElement)) methods.focus.call(this)
    },
  },
} as unknown as typeof Dialog
