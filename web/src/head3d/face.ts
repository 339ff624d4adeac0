import {
  BufferAttribute,
  CatmullRomCurve3,
  Color,
  Group,
  Mesh,
  MeshBasicMaterial,
  MeshPhongMaterial,
  SphereGeometry,
  SRGBColorSpace,
  TorusGeometry,
  TubeGeometry,
  Vector3,
} from 'three'
import type { Solid } from './unpack'

const PUPIL_DEG = 24
const IRIS_DEG = 52
const PUPIL = new Color(0.015, 0.01, 0.01)
const IRIS = new Color(0.05, 0.028, 0.016)
const WHITE = new Color(0.1, 0.08, 0.07)
const LID = new Color(0.05, 0.04, 0.04)
const LIP_MM = 0.7
/** How far an eye looks outward, and a little up. */
const GAZE = [0.42, 0.9, 0.08] as const

/** Eyes with lids and a light in them, and the nose's leather with its nostrils. */
export function faceOf(solid: Solid): Group {
  const face = new Group()
  for (const [i, eye] of solid.eyes.entries()) face.add(eyeAt(eye, solid.eyeWide, i === 0 ? -1 : 1))
  for (const lip of solid.lips) face.add(lipAlong(lip))
  face.add(noseAt(solid.nose, solid.noseWide, leatherOf(solid.leather)))
  return face
}

/** Where dark lips meet. */
function lipAlong(places: readonly (readonly number[])[]): Mesh {
  const curve = new CatmullRomCurve3(places.map(([x = 0, y = 0, z = 0]) => new Vector3(x, y, z)))
  return new Mesh(new TubeGeometry(curve, 48, LIP_MM, 6), new MeshBasicMaterial({ color: LID }))
}

function eyeAt(at: readonly number[], wide: number, side: number): Group {
  const eye = new Group()
  const radius = 0.45 * wide
  const gaze = new Vector3(side * GAZE[0], GAZE[1], GAZE[2]).normalize()
  eye.position.set(at[0] ?? 0, at[1] ?? 0, at[2] ?? 0).addScaledVector(gaze, -0.42 * radius)
  eye.quaternion.setFromUnitVectors(new Vector3(0, 0, 1), gaze)
  const ball = new SphereGeometry(radius, 40, 28)
  ball.rotateX(Math.PI / 2)
  eye.add(
    new Mesh(
      painted(ball),
      new MeshPhongMaterial({ vertexColors: true, shininess: 120, specular: 0x555555 }),
    ),
  )
  const lid = new Mesh(
    new TorusGeometry(radius * 0.86, radius * 0.2, 12, 40),
    new MeshPhongMaterial({ color: LID, shininess: 20 }),
  )
  // Almond: wider than high, the outer corner a little up.
  lid.scale.set(1.12, 0.86, 0.8)
  lid.position.z = radius * 0.5
  lid.rotation.z = side * 0.1
  const glint = new Mesh(new SphereGeometry(radius * 0.11, 10, 8), new MeshBasicMaterial({ color: 0xffffff }))
  glint.position.set(-0.26 * radius, 0.34 * radius, 0.9 * radius)
  eye.add(lid, glint)
  return eye
}

/** Pupil, iris and what little is seen of the white, by the angle from where it looks. */
function painted(ball: SphereGeometry): SphereGeometry {
  const at = ball.attributes['position']
  const colours = new Float32Array(3 * (at?.count ?? 0))
  const way = new Vector3()
  for (let v = 0; v < (at?.count ?? 0); v++) {
    if (at) way.fromBufferAttribute(at as BufferAttribute, v).normalize()
    const off = (Math.acos(way.z) * 180) / Math.PI
    const colour = off < PUPIL_DEG ? PUPIL : off < IRIS_DEG ? IRIS : WHITE
    colour.toArray(colours, 3 * v)
  }
  ball.setAttribute('color', new BufferAttribute(colours, 3))
  return ball
}

/** Photos show the leather with light on it; here light comes by itself. */
function leatherOf([red = 0, green = 0, blue = 0]: readonly number[]): Color {
  return new Color().setRGB(red, green, blue, SRGBColorSpace).multiplyScalar(0.6)
}

function noseAt(at: readonly number[], wide: number, leather: Color): Group {
  const nose = new Group()
  nose.position.set(at[0] ?? 0, (at[1] ?? 0) - 0.1 * wide, at[2] ?? 0)
  const shiny = new MeshPhongMaterial({ color: leather, shininess: 45, specular: 0x333333 })
  const dark = new MeshBasicMaterial({ color: leather.clone().multiplyScalar(0.18) })
  const part = (x: number, y: number, z: number, size: readonly [number, number, number], m = shiny) => {
    const mesh = new Mesh(new SphereGeometry(1, 24, 18), m)
    mesh.position.set(x * wide, y * wide, z * wide)
    mesh.scale.set(size[0] * wide, size[1] * wide, size[2] * wide)
    return mesh
  }
  nose.add(part(0, 0, 0.04, [0.42, 0.34, 0.26]))
  for (const side of [-1, 1]) {
    nose.add(part(side * 0.24, 0.0, -0.03, [0.25, 0.3, 0.22]))
    nose.add(part(side * 0.2, 0.26, -0.06, [0.08, 0.06, 0.085], dark as unknown as MeshPhongMaterial))
  }
  nose.add(part(0, 0.2, -0.22, [0.025, 0.12, 0.16], dark as unknown as MeshPhongMaterial))
  return nose
}
