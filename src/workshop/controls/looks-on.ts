import { inject, type InjectionKey, provide, type Ref, ref } from 'vue'

const looksOnKey: InjectionKey<Readonly<Ref<boolean>>> = Symbol('looks on')

/** Says to all that is shown within whether this browser's key looks on, and changes nothing. */
export const provideLooksOn = (is: Readonly<Ref<boolean>>) => provide(looksOnKey, is)
export const useLooksOn = (): Readonly<Ref<boolean>> => inject(looksOnKey, ref(false))
