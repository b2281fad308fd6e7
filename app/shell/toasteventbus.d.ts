/** The library ships no types of it. */
declare module 'primevue/toasteventbus' {
  interface EventBus {
    on: (type: string, heard: (message: unknown) => void) => void
    off: (type: string, heard: (message: unknown) => void) => void
    emit: (type: string, message: unknown) => void
  }
  const bus: EventBus
  export default bus
}
