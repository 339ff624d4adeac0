import { useState } from 'react'
import type { Mesh, Outline } from '../api/client'
import { saveAs } from '../ui/saveAs'
import { useAttempt } from '../ui/useAttempt'
import type { Stand } from './scene'
import { eightSides, still } from './stills'
import { drawsSolids, useHeadScene, useTurning } from './useHeadScene'

type Props = {
  dogName: string
  mesh: Mesh
  drawing: Outline
  /** What the same setting has grown to so many weeks after the cut, once that is known. */
  ahead: Outline['depths'] | null
  weeks: number
  onAhead: () => void
  /** Shown by itself: then there is room to save it. */
  large: boolean
  surface: (ending: 'glb' | 'stl') => Promise<Blob>
}

const START: Stand = { round: 35, above: 8, state: 1, overlay: false }

/** The head with its hair on a turntable: from the coat as it is to the finished head and weeks on. */
export default function Turntable({ dogName, mesh, drawing, ahead, weeks, onAhead, large, surface }: Props) {
  const [solid] = useState(drawsSolids)
  const { stand, setStand, turns } = useTurning(START)
  const { canvas, scene } = useHeadScene(mesh, drawing.depths, ahead, stand)
  if (!solid) return <p className="m-auto p-4 text-center text-quiet">This device draws no turning head.</p>
  return (
    <>
      <canvas
        ref={canvas}
        className="size-full cursor-grab touch-none active:cursor-grabbing"
        role="application"
        tabIndex={0}
        aria-label={`${dogName}’s head in three dimensions, turned ${Math.round(stand.round)}°. Arrow keys turn it.`}
        data-head3d={drawing.family}
        {...turns}
      />
      <button
        className="absolute top-0 right-3 grid h-12 place-items-center text-sm"
        aria-pressed={stand.overlay}
        onClick={() => setStand({ ...stand, overlay: !stand.overlay })}
      >
        <span className="rounded-md bg-sheet/85 px-2 py-1 underline">
          {stand.overlay ? 'the dog alone' : 'what comes off'}
        </span>
      </button>
      {large && (
        <SaveMenu
          dogName={dogName}
          family={drawing.family}
          made={async (kind) => {
            if (!scene.current) return null
            const blob = await (kind === 'still' ? still : eightSides)(scene.current, stand)
            setStand({ ...stand })
            return blob
          }}
          surface={surface}
        />
      )}
      {stand.overlay && <Legend />}
      <label className="absolute inset-x-3 bottom-1 flex items-center gap-2 text-sm">
        now
        <input
          type="range"
          min={0}
          max={2}
          step={0.02}
          value={stand.state}
          onChange={(event) => {
            const state = Number(event.target.value)
            if (state > 1) onAhead()
            setStand({ ...stand, state })
          }}
          className="tape-slider h-8 min-w-0 flex-1"
          aria-label="From the coat as it is now to the finished head and the weeks after"
        />
        <output className="w-24 whitespace-nowrap">{stateWords(stand.state, ahead && weeks)}</output>
      </label>
    </>
  )
}

type SaveMenuProps = {
  dogName: string
  family: string
  made: (kind: 'still' | 'sides') => Promise<Blob | null>
  surface: Props['surface']
}

/** What can be kept of the head: pictures, and the finished surface for other programs. */
function SaveMenu({ dogName, family, made, surface }: SaveMenuProps) {
  const { attempt, wrong, busy } = useAttempt()
  const name = `${dogName.toLowerCase()}-${family}`
  const keep = (of: () => Promise<Blob | null>, ending: string) =>
    void attempt(async () => {
      const blob = await of()
      if (blob) saveAs(blob, `${name}${ending}`)
    })
  const choices: readonly [string, () => void][] = [
    ['Picture', () => keep(() => made('still'), '.png')],
    ['Eight sides', () => keep(() => made('sides'), '-eight.png')],
    ['GLB', () => keep(() => surface('glb'), '.glb')],
    ['STL', () => keep(() => surface('stl'), '.stl')],
  ]
  return (
    <div className="absolute top-12 right-1 flex flex-col items-end text-sm" role="group" aria-label="Save">
      {choices.map(([words, act]) => (
        <button key={words} className="min-h-11 px-2 underline" onClick={act}>
          <span className="rounded-md bg-sheet/85 px-2 py-1">{words}</span>
        </button>
      ))}
      {busy && <p role="status">Drawing…</p>}
      {wrong}
    </div>
  )
}

function stateWords(state: number, weeks: number | null): string {
  if (state < 0.02) return 'as it is'
  if (state < 0.98) return 'on the way'
  if (state <= 1.02 || weeks === null) return 'finished'
  const later = Math.round((state - 1) * weeks)
  return later < 1 ? 'finished' : `${later} ${later === 1 ? 'week' : 'weeks'} on`
}

function Legend() {
  return (
    <p className="pointer-events-none absolute bottom-9 left-3 rounded bg-sheet/85 px-1 text-xs text-quiet">
      <i className="mr-1 inline-block size-2.5 bg-off opacity-80" />
      comes off
      <i className="mr-1 ml-3 inline-block size-2.5 bg-missing opacity-80" />
      missing
    </p>
  )
}
