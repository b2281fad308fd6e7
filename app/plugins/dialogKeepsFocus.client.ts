import Dialog from 'primevue/dialog'

interface OpenDialog {
  content?: HTMLElement
}

/**
 * A dialog takes the focus once it has faded in. Whoever is typing in it by then keeps it: else the letters go nowhere,
 * and Enter closes it.
 */
export default defineNuxtPlugin(() => {
  const { methods } = Dialog as unknown as { methods: { focus: (this: OpenDialog) => void } }
  const takeFocus = methods.focus
  methods.focus = function () {
    if (!this.content?.contains(document.activeElement)) takeFocus.call(this)
  }
})
