import {
  AmbientLight,
  Color,
  DirectionalLight,
  Group,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three'
import { faceOf } from './face'
import { Hair } from './hair'
import { MOST_STRANDS, strandsOf } from './strands'
import { Undercoat } from './undercoat'
import type { Left, Solid } from './unpack'

/**
 * How the turntable stands: degrees round the head (0 from the front) and above it; state 0 as it is now, 1 finished,
 * 2 weeks ahead; overlay: what comes off and what is missing in colour.
 */
export type Stand = {
  readonly round: number
  readonly above: number
  readonly state: number
  readonly overlay: boolean
}

export type Three = [number, number, number]

const ROOM = 0.86
const VIEW_DEG = 24
const OFF = new Color(0.85, 0.28, 0.17)
const MISSING = new Color(0.11, 0.38, 0.68)
/** Behind the nose, where the head turns, and how far what is drawn reaches from there, mm. */
const HAIR_BEYOND_MM = 14

/** The head in three dimensions: drawn when asked, never by itself. */
export class HeadScene {
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly camera = new PerspectiveCamera(VIEW_DEG, 1, 10, 3000)
  private readonly hair = new Hair(OFF, MISSING)
  private readonly undercoat = new Undercoat()
  private face = new Group()
  private readonly middle = new Vector3()
  private radius = 100
  /** The state that the undercoat stands at. */
  private grown: number | null = null
  private shown: { solid: Solid; left: Left; ahead: Left } | null = null

  /** room: how much is left round the head. Throws where the device draws no 3D. */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly room = ROOM,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: true })
    const light = new DirectionalLight(0xffffff, 2.4)
    light.position.set(-200, 400, 300)
    this.camera.add(light)
    this.scene.add(this.camera, new AmbientLight(0xffffff, 0.7), this.face)
    this.scene.add(this.undercoat.neck, this.undercoat.head, this.hair.mesh)
  }

  /** A head and a setting of an outline on it; ahead: the same some weeks on. */
  set(solid: Solid, left: Left, ahead: Left) {
    if (this.shown?.solid !== solid) {
      this.undercoat.set(solid)
      this.scene.remove(this.face)
      this.face = faceOf(solid)
      this.scene.add(this.face)
      this.frame(solid)
    }
    this.shown = { solid, left, ahead }
    this.grown = null
    this.hair.set(strandsOf(solid, left, ahead, MOST_STRANDS), solid.coatType)
  }

  /** share: of the strands, 1 for all. Returns how long it took, ms. */
  draw({ round, above, state, overlay }: Stand, width: number, height: number, share = 1): number {
    if (!this.shown || !width || !height) return 0
    const begun = performance.now()
    this.finely(Math.min(window.devicePixelRatio, 2))
    this.render({ round, above, state, overlay }, width, height, share)
    // Reading one pixel back waits until it is drawn: only then is the time true.
    const gl = this.renderer.getContext()
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
    return performance.now() - begun
  }

  /** Where a place of the head (mm) is pictured, as shares of the canvas from its top left. */
  picturedAt(place: readonly number[]): { x: number; y: number } {
    const seen = new Vector3().fromArray(place).project(this.camera)
    return { x: (seen.x + 1) / 2, y: (1 - seen.y) / 2 }
  }

  /** What a finger on the canvas (shares of it) points from and along, mm, head frame. */
  ray(x: number, y: number): { start: Three; along: Three } {
    const { origin, direction } = this.pointing(x, y).ray
    return { start: origin.toArray(), along: direction.toArray() }
  }

  /** The skin's vertex under a finger; null beside the head and on an ear. */
  vertex(x: number, y: number): number | null {
    const hit = this.pointing(x, y).intersectObject(this.undercoat.head)[0]
    const skin = (this.shown?.solid.skin.length ?? 0) / 3
    return hit?.face && hit.face.a < skin ? hit.face.a : null
  }

  /** How many shares of the canvas's width a millimetre is, where the head turns. */
  get shareAMm(): number {
    const away = this.camera.position.distanceTo(this.middle)
    return 1 / (2 * away * Math.tan((VIEW_DEG * Math.PI) / 360) * this.camera.aspect)
  }

  private pointing(x: number, y: number): Raycaster {
    const caster = new Raycaster()
    caster.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), this.camera)
    return caster
  }

  /** A square picture of its own size; it lies on the canvas until the next is drawn. */
  pictured(stand: Stand, side: number, share: number): HTMLCanvasElement {
    this.finely(1)
    this.render(stand, side, side, share)
    return this.renderer.domElement
  }

  private finely(ratio: number) {
    if (this.renderer.getPixelRatio() !== ratio) this.renderer.setPixelRatio(ratio)
  }

  private render({ round, above, state, overlay }: Stand, width: number, height: number, share: number) {
    if (!this.shown) return
    const size = this.renderer.getSize(new Vector2())
    if (size.x !== width || size.y !== height) this.renderer.setSize(width, height, false)
    this.stand(round, above, width / height)
    if (this.grown !== state) {
      this.undercoat.show(this.shown.solid, this.shown.left, this.shown.ahead, state)
      this.grown = state
    }
    this.hair.show(state, overlay, share)
    this.renderer.render(this.scene, this.camera)
  }

  private stand(round: number, above: number, aspect: number) {
    this.camera.aspect = aspect
    const [r, a] = [(round * Math.PI) / 180, (above * Math.PI) / 180]
    const half = (VIEW_DEG * Math.PI) / 360
    const away = ((this.room * this.radius) / Math.sin(half)) * Math.max(0.98, 1 / aspect)
    // The head frame has z up and y forward; seen from the front the dog's right is at the left.
    const toward = new Vector3(-Math.sin(r) * Math.cos(a), Math.cos(r) * Math.cos(a), Math.sin(a))
    this.camera.up.set(0, 0, 1)
    this.camera.position.copy(this.middle).addScaledVector(toward, away)
    this.camera.lookAt(this.middle)
    this.camera.updateProjectionMatrix()
    this.camera.updateMatrixWorld()
  }

  /** The middle of head and ears, and how far they reach with the hair they have now. */
  private frame(solid: Solid) {
    const [low, high] = [new Vector3().setScalar(Infinity), new Vector3().setScalar(-Infinity)]
    const place = new Vector3()
    for (const [positions, more] of [
      [solid.skin, HAIR_BEYOND_MM],
      [solid.ears, 0],
    ] as const) {
      for (let i = 0; i < positions.length; i += 3) {
        place.fromArray(positions, i)
        low.min(place.clone().subScalar(more))
        high.max(place.clone().addScalar(more))
      }
    }
    this.middle.addVectors(low, high).multiplyScalar(0.5)
    this.radius = low.distanceTo(high) / 2
  }

  dispose() {
    this.hair.dispose()
    this.undercoat.dispose()
    this.renderer.dispose()
  }
}
