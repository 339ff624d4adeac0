import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Plane,
  Scene,
  SphereGeometry,
  Vector3,
  WebGLRenderer,
} from 'three'
import { coloursOf, surfaceOf, type Left, type Solid } from './unpack'

/** How the turntable stands: degrees round the head (0 from the front) and above it, and how far the wipe is. */
export type Stand = { readonly round: number; readonly above: number; readonly wipe: number }

const ROOM = 1.02
const VIEW_DEG = 26
const NOW = new Color(0.78, 0.56, 0.28)
const EYE_MM = 6.5
const NOSE_MM = 9

/** The head in three dimensions: drawn when asked, never by itself. */
export class HeadScene {
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly camera = new PerspectiveCamera(VIEW_DEG, 1, 10, 2000)
  private readonly head = new Group()
  private readonly before = new Plane(new Vector3(1, 0, 0), 0)
  private readonly after = new Plane(new Vector3(-1, 0, 0), 0)
  private readonly now: Mesh<BufferGeometry, MeshLambertMaterial>
  private readonly cut: Mesh<BufferGeometry, MeshLambertMaterial>
  private readonly middle = new Vector3()
  private solid: Solid | null = null

  /** Throws where the device draws no 3D. */
  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
    this.renderer.localClippingEnabled = true
    this.now = new Mesh(
      new BufferGeometry(),
      new MeshLambertMaterial({ color: NOW, side: DoubleSide, clippingPlanes: [this.before] }),
    )
    this.cut = new Mesh(
      new BufferGeometry(),
      new MeshLambertMaterial({ vertexColors: true, side: DoubleSide, clippingPlanes: [this.after] }),
    )
    const light = new DirectionalLight(0xffffff, 2.2)
    light.position.set(-200, 300, 400)
    this.camera.add(light)
    this.scene.add(this.camera, new AmbientLight(0xffffff, 1.1), this.head)
    this.head.add(this.now, this.cut)
  }

  /** Another head. */
  setSolid(solid: Solid) {
    this.solid = solid
    const faces = new BufferAttribute(solid.faces, 1)
    this.now.geometry.setIndex(faces)
    this.cut.geometry.setIndex(faces)
    setPositions(this.now.geometry, surfaceOf(solid, solid.coat, solid.ears))
    this.now.geometry.computeBoundingSphere()
    this.middle.copy(this.now.geometry.boundingSphere?.center ?? new Vector3())
    this.head.remove(...this.head.children.filter((c) => c !== this.now && c !== this.cut))
    const leather = new MeshLambertMaterial({ color: new Color(0.07, 0.06, 0.06) })
    for (const eye of solid.eyes) this.head.add(ball(eye, EYE_MM, leather))
    this.head.add(ball(solid.nose, NOSE_MM, leather))
  }

  /** Another setting of the outline. */
  setLeft(left: Left) {
    if (!this.solid) return
    setPositions(this.cut.geometry, surfaceOf(this.solid, left.leave, left.ears))
    this.cut.geometry.setAttribute('color', new BufferAttribute(coloursOf(this.solid, left), 3))
  }

  draw({ round, above, wipe }: Stand, width: number, height: number) {
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    this.renderer.setSize(width, height, false)
    this.camera.aspect = width / height
    const [r, a] = [(round * Math.PI) / 180, (above * Math.PI) / 180]
    // The head frame has z up and y forward; seen from the front the dog's right is at the left.
    const away = new Vector3(
      -Math.sin(r) * Math.cos(a),
      Math.cos(r) * Math.cos(a),
      Math.sin(a),
    ).multiplyScalar(this.distance())
    this.camera.up.set(0, 0, 1)
    this.camera.position.copy(this.middle).add(away)
    this.camera.lookAt(this.middle)
    this.camera.updateProjectionMatrix()
    this.camera.updateMatrixWorld()
    const across = new Vector3().setFromMatrixColumn(this.camera.matrixWorld, 0)
    const radius = this.now.geometry.boundingSphere?.radius ?? 100
    const at = this.middle.clone().addScaledVector(across, (2 * wipe - 1) * radius)
    this.after.setFromNormalAndCoplanarPoint(across, at)
    this.before.setFromNormalAndCoplanarPoint(across.clone().negate(), at)
    this.renderer.render(this.scene, this.camera)
  }

  /** From where the whole head just fits. */
  private distance() {
    const radius = this.now.geometry.boundingSphere?.radius ?? 100
    const half = (VIEW_DEG * Math.PI) / 360
    return ((ROOM * radius) / Math.sin(half)) * Math.max(0.98, 1 / this.camera.aspect)
  }

  dispose() {
    this.now.geometry.dispose()
    this.cut.geometry.dispose()
    this.renderer.dispose()
  }
}

function setPositions(geometry: BufferGeometry, positions: Float32Array) {
  geometry.setAttribute('position', new BufferAttribute(positions, 3))
  geometry.computeVertexNormals()
}

function ball(at: readonly number[], radius: number, material: MeshLambertMaterial) {
  const mesh = new Mesh(new SphereGeometry(radius, 20, 14), material)
  mesh.position.set(at[0] ?? 0, at[1] ?? 0, at[2] ?? 0)
  return mesh
}
