import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, ShaderMaterial } from 'three'
import { surfaceOf, type Left, type Solid } from './unpack'

const VERTEX = `
attribute vec3 colour;
attribute float fade;
uniform vec3 light;
varying vec3 shown;
varying float whole;
void main() {
  vec3 facing = normalize((modelViewMatrix * vec4(normal, 0.0)).xyz);
  float form = 0.6 + 0.5 * clamp(dot(facing, normalize(light)) * 0.6 + 0.4, 0.0, 1.0);
  shown = colour * form * 0.8;
  whole = fade;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`

const FRAGMENT = `
varying vec3 shown;
varying float whole;
void main() {
  if (whole < 0.02) discard;
  gl_FragColor = vec4(shown * whole, whole);
}`

/** How deep in the coat the shaded ground between the strands lies. */
const DEEP = 0.55
const NECK_INSIDE_MM = 1

/** What is seen between the strands: the shaded depth of the coat, and skin where none grows. */
export class Undercoat {
  readonly head: Mesh<BufferGeometry, ShaderMaterial>
  readonly neck: Mesh<BufferGeometry, ShaderMaterial>

  constructor() {
    const material = () =>
      new ShaderMaterial({
        vertexShader: VERTEX,
        fragmentShader: FRAGMENT,
        side: DoubleSide,
        uniforms: { light: { value: [-0.35, 0.75, 0.6] } },
      })
    this.head = new Mesh(new BufferGeometry(), material())
    this.neck = new Mesh(new BufferGeometry(), material())
    this.neck.material.transparent = true
    this.neck.material.premultipliedAlpha = true
    for (const mesh of [this.head, this.neck]) mesh.frustumCulled = false
  }

  set(solid: Solid) {
    const { neck } = solid
    this.head.geometry.setIndex(new BufferAttribute(solid.faces, 1))
    const vertices = solid.colours.length / 3
    this.head.geometry.setAttribute('colour', new BufferAttribute(solid.colours, 3))
    this.head.geometry.setAttribute('fade', new BufferAttribute(new Float32Array(vertices).fill(1), 1))
    const colour = new Float32Array(neck.positions.length)
    neck.like.forEach((v, i) => colour.set(solid.colours.subarray(3 * v, 3 * v + 3), 3 * i))
    const inside = neck.positions.map((p, i) => p - NECK_INSIDE_MM * (neck.outward[i] ?? 0))
    this.neck.geometry.setIndex(new BufferAttribute(neck.faces, 1))
    this.neck.geometry.setAttribute('position', new BufferAttribute(inside, 3))
    this.neck.geometry.setAttribute('normal', new BufferAttribute(neck.outward, 3))
    this.neck.geometry.setAttribute('colour', new BufferAttribute(colour, 3))
    this.neck.geometry.setAttribute('fade', new BufferAttribute(neck.fade, 1))
  }

  /** state: 0 now, 1 finished, 2 weeks ahead. */
  show(solid: Solid, left: Left, ahead: Left, state: number) {
    const [toCut, toAhead] = [Math.min(state, 1), Math.max(state - 1, 0)]
    const between = (now: Float32Array, cut: Float32Array, later: Float32Array) =>
      cut.map((c, i) => {
        const here = (now[i] ?? 0) + toCut * (c - (now[i] ?? 0))
        return here + toAhead * ((later[i] ?? 0) - here)
      })
    const depth = between(solid.coat, left.leave, ahead.leave)
    const ears = between(solid.ears, left.ears, ahead.ears)
    this.head.geometry.setAttribute('position', new BufferAttribute(surfaceOf(solid, depth, ears, DEEP), 3))
    this.head.geometry.computeVertexNormals()
  }

  dispose() {
    for (const mesh of [this.head, this.neck]) {
      mesh.geometry.dispose()
      mesh.material.dispose()
    }
  }
}
