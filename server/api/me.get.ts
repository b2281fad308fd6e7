import { whoAsks } from '../requests/ownMachine'

/** The name of the device that asks; empty: this machine. */
export default defineEventHandler(event => ({ device: whoAsks(event) }))
