import {
  Color,
  DoubleSide,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  Float32BufferAttribute,
  Mesh,
  ShaderMaterial,
} from 'three'
import type { Strands } from './strands'

const SEGMENTS = 5

/** How hair of a coat type bends: curl and wave in mm, how many turns along it, how unruly it is. */
const BENDS: Readonly<Record<string, { curl: number; wave: number; turns: number; unruly: number }>> = {
  standing: { curl: 0, wave: 0.4, turns: 1, unruly: 0.16 },
  harsh: { curl: 0, wave: 0.5, turns: 1.2, unruly: 0.22 },
  curl: { curl: 2.2, wave: 0.6, turns: 2.2, unruly: 0.3 },
  wavy: { curl: 0.5, wave: 2.0, turns: 1.4, unruly: 0.2 },
  fine_drop: { curl: 0, wave: 0.6, turns: 0.8, unruly: 0.07 },
}

const VERTEX = `
attribute vec3 now;
attribute vec3 cut;
attribute vec3 ahead;
attribute vec3 outward;
attribute vec3 depths;
attribute vec3 colour;
attribute vec3 own;
attribute vec4 kind;
uniform float state;
uniform float wide;
uniform float overlay;
uniform vec4 bends;
uniform vec3 light;
uniform vec3 off;
uniform vec3 missing;
varying vec3 shown;

vec3 hashed(vec3 p) {
  return fract(sin(vec3(dot(p, vec3(12.99, 78.23, 37.72)), dot(p, vec3(93.98, 67.35, 11.14)),
    dot(p, vec3(45.16, 24.63, 83.15)))) * 43758.5453) - 0.5;
}

void main() {
  float t = position.y;
  float toCut = clamp(state, 0.0, 1.0);
  float toAhead = clamp(state - 1.0, 0.0, 1.0);
  vec3 root = mix(mix(now, cut, toCut), ahead, toAhead);
  float depth = mix(mix(depths.x, depths.y, toCut), depths.z, toAhead);
  vec3 up = normalize(outward);
  // Hair lies back and down from where it stands off; together with its neighbours, a lock at a time.
  vec3 lock = hashed(floor(root / 7.0));
  vec3 loose = bends.w * ((own - 0.5) * 1.1 + lock * 0.9);
  float stands = clamp(kind.x, 0.25, 0.95);
  float grown = depth / stands;
  stands = mix(0.95, stands, clamp(grown / 20.0, 0.0, 1.0));
  vec3 down = vec3(0.0, -0.55, -0.83);
  vec3 lay = down - dot(down, up) * up;
  vec3 way = normalize(up * stands + normalize(lay + 1e-4) * sqrt(1.0 - stands * stands) + loose);
  float reach = depth * (0.86 + 0.17 * own.x) / max(dot(way, up), 0.3);
  vec3 across = normalize(cross(way, vec3(0.31, 0.87, 0.38)));
  vec3 beside = cross(way, across);
  float turn = 6.2832 * (own.y + bends.z * t * clamp(depth / 14.0, 0.35, 1.6));
  float swing = min(depth / 12.0, 1.0) * t;
  vec3 at = root + way * reach * t
    + swing * (bends.x * (across * cos(turn) + beside * sin(turn)) + bends.y * across * sin(turn * 0.5 + lock.x * 6.0));
  at.z -= reach * 0.07 * t * t;
  vec4 seen = modelViewMatrix * vec4(at, 1.0);
  vec3 along = normalize((modelViewMatrix * vec4(way, 0.0)).xyz);
  vec3 side = normalize(cross(along, normalize(seen.xyz)));
  seen.xyz += side * position.x * wide * (1.0 - 0.75 * t) * (0.7 + 0.6 * own.z);
  gl_Position = projectionMatrix * seen;

  vec3 facing = normalize((modelViewMatrix * vec4(up, 0.0)).xyz);
  vec3 toLight = normalize(light);
  float form = 0.66 + 0.44 * clamp(dot(facing, toLight) * 0.6 + 0.4, 0.0, 1.0);
  float sine = sqrt(max(1.0 - pow(dot(along, toLight), 2.0), 0.0));
  vec3 half_ = normalize(toLight - normalize(seen.xyz));
  float shine = pow(sqrt(max(1.0 - pow(dot(along, half_), 2.0), 0.0)), 24.0) * 0.10 * t;
  float deep = mix(0.72, 1.16, smoothstep(0.0, 0.9, t));
  vec3 hair = colour * (0.9 + 0.22 * (own.z - 0.5) + 0.16 * lock.y);
  shown = hair * form * deep * (0.86 + 0.2 * sine) + shine;
  shown = mix(shown, off * (0.6 + 0.4 * form), overlay * kind.z * 0.85);
  shown = mix(shown, missing * (0.6 + 0.4 * form), overlay * kind.w);
  if (own.y > kind.y * 1.02 || depth < 0.2) gl_Position = vec4(0.0, 0.0, 9.0, 1.0);
}`

const FRAGMENT = `
varying vec3 shown;
void main() {
  gl_FragColor = vec4(shown, 1.0);
}`

/** One strand: a ribbon from its root (y 0) to its tip (y 1), which the vertices are moved along. */
function ribbon(): InstancedBufferGeometry {
  const geometry = new InstancedBufferGeometry()
  const [positions, faces]: [number[], number[]] = [[], []]
  for (let i = 0; i <= SEGMENTS; i++) positions.push(-0.5, i / SEGMENTS, 0, 0.5, i / SEGMENTS, 0)
  for (let i = 0; i < SEGMENTS; i++) {
    const a = 2 * i
    faces.push(a, a + 1, a + 2, a + 1, a + 3, a + 2)
  }
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3))
  geometry.setIndex(faces)
  return geometry
}

/** All strands in one draw; any first few of them stand for the whole, each the wider for it. */
export class Hair {
  readonly mesh: Mesh<InstancedBufferGeometry, ShaderMaterial>
  private strands: Strands | null = null

  constructor(off: Color, missing: Color) {
    const material = new ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
      side: DoubleSide,
      transparent: false,
      uniforms: {
        state: { value: 1 },
        wide: { value: 1 },
        overlay: { value: 0 },
        bends: { value: [0, 0, 1, 0.15] },
        light: { value: [-0.35, 0.75, 0.6] },
        off: { value: off },
        missing: { value: missing },
      },
    })
    this.mesh = new Mesh(ribbon(), material)
    this.mesh.frustumCulled = false
  }

  set(strands: Strands, coatType: string) {
    this.strands = strands
    const { geometry, material } = this.mesh
    const names = ['now', 'cut', 'ahead', 'outward', 'depths', 'colour', 'own', 'kind'] as const
    for (const name of names) {
      const width = strands[name].length / strands.many
      geometry.setAttribute(name, new InstancedBufferAttribute(strands[name], width))
    }
    const { curl, wave, turns, unruly } = BENDS[coatType] ?? { curl: 0, wave: 0.5, turns: 1, unruly: 0.16 }
    material.uniforms['bends'] = { value: [curl, wave, turns, unruly] }
  }

  /** state: 0 now, 1 finished, 2 weeks ahead; share of the strands that are drawn. */
  show(state: number, overlay: boolean, share: number) {
    const many = this.strands?.many ?? 0
    this.mesh.geometry.instanceCount = Math.round(many * share)
    const { uniforms } = this.mesh.material
    uniforms['state'] = { value: state }
    uniforms['overlay'] = { value: overlay ? 1 : 0 }
    uniforms['wide'] = { value: 0.75 / Math.sqrt(Math.max(share, 0.02)) }
  }

  dispose() {
    this.mesh.geometry.dispose()
    this.mesh.material.dispose()
  }
}
