type Listener = () => void

/** A small setting kept in this browser, one of some; subscribing returns its undo. */
export function stored<T extends string>(key: string, choices: readonly [T, ...T[]]) {
  const name = `dapwick.${key}`
  const kept = globalThis.localStorage?.getItem(name)
  let value = choices.find((choice) => choice === kept) ?? choices[0]
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
