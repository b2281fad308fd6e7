import type { InjectionKey, Ref } from 'vue'
import type { Plan } from '#core/plan/schema'

/** The plan that a form is of: what its choices name stands in it. */
export const FORM_PLAN: InjectionKey<Readonly<Ref<Plan>>> = Symbol('the plan of the form')
