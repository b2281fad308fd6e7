import { config } from 'zod/v4/core'

/** A command asks each schema once or twice: that it writes a quicker program of itself first would take longer. */
config({ jitless: true })
