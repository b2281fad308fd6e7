import fc from 'fast-check'

/** Every property tries the same cases each time; another seed tries others: WIREMAN_SEED=9 ./run unit */
fc.configureGlobal({ seed: Number(process.env.WIREMAN_SEED ?? 8) })
