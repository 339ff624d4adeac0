import { imagePoint, type ImagePoint } from './points'

/** The part of a photo that is looked at, in photo px. */
export type Window = {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
export type Size = { readonly width: number; readonly height: number }

export const WHOLE = (photo: Size): Window => ({ x: 0, y: 0, ...photo })

const CLOSEST = 8

/** How many times larger than the whole photo it is seen. */
export const closeness = (window: Window, photo: Size) => photo.width / window.width

/** Nearer (factor above 1) or farther, about a point that stays where it is. */
export function zoomed(window: Window, photo: Size, factor: number, about: ImagePoint): Window {
  const to = Math.min(Math.max(closeness(window, photo) * factor, 1), CLOSEST)
  const shrink = photo.width / to / window.width
  return kept(
    {
      x: about.x - (about.x - window.x) * shrink,
      y: about.y - (about.y - window.y) * shrink,
      width: window.width * shrink,
      height: window.height * shrink,
    },
    photo,
  )
}

/** Moved by so many photo px, never off the photo. */
export const panned = (window: Window, photo: Size, dx: number, dy: number): Window =>
  kept({ ...window, x: window.x + dx, y: window.y + dy }, photo)

export const middle = (window: Window): ImagePoint =>
  imagePoint(window.x + window.width / 2, window.y + window.height / 2)

function kept(window: Window, photo: Size): Window {
  return {
    ...window,
    x: Math.min(Math.max(window.x, 0), photo.width - window.width),
    y: Math.min(Math.max(window.y, 0), photo.height - window.height),
  }
}
