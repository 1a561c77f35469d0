import { inject, provide, type InjectionKey } from 'vue'

type RefusedAt = (place: string) => string | undefined

const REFUSED: InjectionKey<RefusedAt> = Symbol('why what was typed at a place cannot be saved')

/** Tells the fields of an editor why what is typed into them cannot be saved, by their places in what it edits. */
export const provideRefused = (refusedAt: RefusedAt) => provide(REFUSED, refusedAt)

/** Why what stands at a place of what is edited cannot be saved. */
export const useRefused = () => inject(REFUSED, () => undefined)
