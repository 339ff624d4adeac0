/** The dog that was removed last on this screen, so that one tap brings it back. */
export type Gone = { readonly id: number; readonly name: string }
type Listener = () => void

let gone: Gone | null = null
const listeners = new Set<Listener>()

export function toRemoved(dog: Gone | null): void {
  gone = dog
  listeners.forEach((tell) => tell())
}

export const lastRemoved = () => gone

export function onRemoved(tell: Listener) {
  listeners.add(tell)
  return () => void listeners.delete(tell)
}
