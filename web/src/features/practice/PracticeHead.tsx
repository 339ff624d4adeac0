import type { ComponentProps } from 'react'
import type PosedHead from '../../head3d/Posed'
import type { Stand } from '../../head3d/scene'
import type { Task } from './practiceMachine'
import { usePosed } from './usePractice'

type Given = Omit<ComponentProps<typeof PosedHead>, 'mesh' | 'depths' | 'stand'> & {
  task: Task
  depths: 'bare' | 'cut'
  cut?: ComponentProps<typeof PosedHead>['depths'] | null
}

const FROM: Readonly<Record<string, readonly [number, number]>> = {
  front: [0, 4],
  left: [90, 2],
  right: [-90, 2],
  top: [0, 84],
}
const ANY = [32, 8] as const

/** The question's own head, on paper. */
export function PracticeHead({ task, depths, cut, ...given }: Given) {
  const part = usePosed()
  if (!task.scene || !part.data) return <p className="m-auto p-4 text-quiet">Drawing the head…</p>
  const Posed = part.data.default
  const [round, above] = FROM[task.view ?? ''] ?? ANY
  const stand: Stand = { round, above, state: 0, overlay: false }
  const drawn = depths === 'bare' ? task.scene.bare : (cut ?? task.scene.cut ?? task.scene.bare)
  return <Posed mesh={task.scene.mesh} depths={drawn} stand={stand} {...given} />
}
