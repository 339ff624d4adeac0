import { describe, expect, it } from 'vitest'
import { imagePoint } from '../src/sheet/points'
import { closeness, middle, panned, WHOLE, zoomed } from '../src/sheet/zoom'

const PHOTO = { width: 1200, height: 900 }

describe('looking closer at a photo', () => {
  it('keeps the point under the finger where it is', () => {
    const about = imagePoint(300, 600)
    const near = zoomed(WHOLE(PHOTO), PHOTO, 2, about)
    expect(closeness(near, PHOTO)).toBeCloseTo(2)
    const share = (at: number, from: number, size: number) => (at - from) / size
    expect(share(about.x, near.x, near.width)).toBeCloseTo(300 / 1200)
    expect(share(about.y, near.y, near.height)).toBeCloseTo(600 / 900)
  })
  it('never shows less than the photo nor comes closer than eight times', () => {
    expect(zoomed(WHOLE(PHOTO), PHOTO, 0.2, imagePoint(5, 5))).toEqual(WHOLE(PHOTO))
    const closest = zoomed(WHOLE(PHOTO), PHOTO, 50, imagePoint(600, 450))
    expect(closeness(closest, PHOTO)).toBeCloseTo(8)
    expect(middle(closest).x).toBeCloseTo(600)
  })
  it('never leaves the photo', () => {
    const corner = zoomed(WHOLE(PHOTO), PHOTO, 4, imagePoint(0, 0))
    expect(panned(corner, PHOTO, -500, -500)).toMatchObject({ x: 0, y: 0 })
    expect(panned(corner, PHOTO, 9000, 9000)).toMatchObject({ x: 900, y: 675 })
  })
  it('comes back to the whole photo as it went in', () => {
    const about = imagePoint(700, 200)
    const there = zoomed(WHOLE(PHOTO), PHOTO, 3, about)
    const back = zoomed(there, PHOTO, 1 / 3, about)
    expect(back.x).toBeCloseTo(0)
    expect(back.y).toBeCloseTo(0)
    expect(back.width).toBeCloseTo(PHOTO.width)
  })
})
