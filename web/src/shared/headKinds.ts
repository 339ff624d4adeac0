/** How long a muzzle is at first sight. */
export const MUZZLES = { any: 'not sure', short: 'short', medium: 'medium', long: 'long' } as const

/** How ears are carried at first sight. */
export const CARRIAGES = {
  any: 'not sure',
  prick: 'prick',
  tipped: 'tipped',
  button: 'button',
  drop: 'drop',
} as const

export type Muzzle = keyof typeof MUZZLES
export type Carriage = keyof typeof CARRIAGES
