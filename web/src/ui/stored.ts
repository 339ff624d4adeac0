type Listener = () => void

/** A small setting kept in this browser; subscribing returns its undo. */
export function stored<T extends string>(key: string, initial: T) {
  const name = `dapwick.${key}`
  let value = (globalThis.localStorage?.getItem(name) as T | null) ?? initial
  const listeners = new Set<Listener>()
  return {
    get: () => value,
    set(next: T) {
      value = next
      globalThis.localStorage?.setItem(name, next)
      listeners.forEach((tell) => tell())
    },
    subscribe(tell: Listener) {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
  }
}
