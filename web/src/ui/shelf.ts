export type Shelf = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>

/**
 * What a browser kept under a name, as long as it still is what it should be. What is damaged (a browser that ran out
 * of room in the middle, another version, another hand) is laid aside under another name: it never keeps a screen from
 * opening, and is not lost either.
 */
export function recall<T>(shelf: Shelf, name: string, fits: (value: unknown) => value is T): T | null {
  const text = shelf.getItem(name)
  if (text === null) return null
  try {
    const value: unknown = JSON.parse(text)
    if (fits(value)) return value
  } catch {
    // No JSON: laid aside below.
  }
  shelf.removeItem(name)
  keep(shelf, `${name}.damaged`, text)
  return null
}

/** Keep a text; says whether there was room for it. */
export function keep(shelf: Pick<Storage, 'setItem'>, name: string, text: string): boolean {
  try {
    shelf.setItem(name, text)
    return true
  } catch {
    return false
  }
}

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
