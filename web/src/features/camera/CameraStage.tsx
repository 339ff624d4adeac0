import { Radio, RadioGroup, Switch } from '@headlessui/react'
import { Camera as CameraIcon, Check, Circle, X } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { useShortcuts } from '../../ui/useShortcuts'
import { Link, useSearchParams } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Guidance, State, View } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { ViewSketch } from '../../shared/ViewSketch'
import { viewWords } from '../../shared/photoWords'
import { StatePick } from '../../shared/StatePick'
import { useCamera } from './useCamera'

/** The camera with its guide: level, turn, nod, distance, sharpness; the photo goes into its slot. */
export function CameraStage() {
  const [asked, setAsked] = useSearchParams()
  const kind = asked.get('source') === 'simulated' ? 'simulated' : 'browser'
  return (
    <Camera
      key={kind}
      kind={kind}
      asked={asked}
      onKind={(to) => setAsked({ ...Object.fromEntries(asked), source: to })}
    />
  )
}

type Props = {
  kind: 'browser' | 'simulated'
  asked: URLSearchParams
  onKind: (kind: 'browser' | 'simulated') => void
}

function Camera({ kind, asked, onKind }: Props) {
  const dog = useDog()
  const slot = { view: (asked.get('view') ?? 'front') as View, state: (asked.get('state') ?? 'dry') as State }
  const { now, act, bring, picture, stream } = useCamera(dog, slot, kind)
  useShortcuts((event) => {
    const elsewhere = event.target instanceof HTMLElement && event.target.closest('button,a,[role=radio]')
    if (elsewhere || ![' ', 'Enter', 'PageDown'].includes(event.key)) return false
    act({ type: 'take' })
    return true
  })
  const has = (view: View) =>
    now.taken.includes(view) || dog.photos.some((p) => p.view === view && p.state === now.state)
  return (
    <main className="flex min-h-0 flex-1 gap-4 p-4 max-lg:flex-col">
      <h1 className="sr-only">Camera for {dog.name}</h1>
      <div
        className="relative min-h-80 flex-1 overflow-hidden rounded-xl bg-[#10241f]"
        data-phase={now.phase}
      >
        {kind === 'browser' ? (
          <Live stream={stream} />
        ) : (
          picture && (
            <img
              src={picture}
              alt="What the simulated camera sees"
              className="absolute inset-0 size-full object-contain"
            />
          )
        )}
        {now.guidance && now.phase !== 'done' && <Level guidance={now.guidance} />}
        <p
          className="absolute inset-x-0 top-0 bg-[#10241f]/80 p-3 text-center text-2xl font-bold text-white"
          role="status"
        >
          {now.phase === 'done' ? 'All are taken.' : headline(now.guidance, viewWords(now.view))}
        </p>
        {now.phase === 'refused' && (
          <div className="absolute inset-x-0 top-1/3">
            <Notice tone="warn">{now.reason}</Notice>
            <div className="flex flex-wrap justify-center gap-3">
              <OwnCamera words={viewWords(now.view)} onTaken={(photo) => void bring(photo)} />
              <Button onClick={() => onKind('simulated')}>Try the simulated camera</Button>
            </div>
          </div>
        )}
      </div>
      <aside className="flex w-76 shrink-0 flex-col gap-3 overflow-auto max-lg:w-full">
        <div className="flex items-center justify-between">
          <span className="text-xl font-bold">{viewWords(now.view)}</span>
          <Link
            to={`/dogs/${dog.id}/photos`}
            className="inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold"
          >
            <X size={18} aria-hidden /> Done
          </Link>
        </div>
        <ul aria-label="Guide" className="grid gap-1.5">
          {now.guidance?.advice.map((a) => (
            <li
              key={a.code}
              data-advice={a.code}
              data-fine={a.fine}
              className={`flex min-h-11 items-center gap-3 rounded-lg px-3 ${a.fine ? 'bg-sheet' : 'bg-tape font-bold text-[#17352f]'}`}
            >
              {a.fine ? <Check size={20} aria-label="fine" /> : <Circle size={20} aria-label="not yet" />}
              {a.words}
            </li>
          ))}
        </ul>
        <Button
          look="firm"
          className="min-h-20 text-xl"
          disabled={now.phase !== 'live'}
          onClick={() => act({ type: 'take' })}
        >
          {now.phase === 'taking' ? 'Taking…' : 'Take photo'}{' '}
          <span className="text-sm font-normal">space</span>
        </Button>
        <Switch
          checked={now.byItself}
          onChange={(on) => act({ type: 'byItself', on })}
          className="group flex min-h-12 items-center gap-3 rounded-lg border border-rule bg-sheet px-3 text-left"
        >
          <span className="h-6 w-11 shrink-0 rounded-full border-2 border-current p-0.5">
            <span className="block size-4 rounded-full bg-current transition group-data-checked:translate-x-5" />
          </span>
          Take automatically when all checks pass
        </Switch>
        <StatePick value={now.state} onChange={(state) => act({ type: 'state', state })} />
        <RadioGroup
          value={now.view}
          onChange={(view: View) => act({ type: 'point', view })}
          aria-label="Slot"
          className="grid grid-cols-4 gap-1.5"
        >
          {(dog.views_wanted[now.state] ?? []).map((view) => (
            <Radio
              key={view}
              value={view}
              aria-label={`${viewWords(view)}${has(view) ? ', taken' : ''}`}
              className="relative grid aspect-square cursor-pointer place-items-center rounded-lg border-2 border-rule bg-sheet data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f] [&_svg]:size-12"
            >
              <ViewSketch view={view} />
              {has(view) && (
                <Check size={18} strokeWidth={3} className="absolute top-1 right-1 size-5!" aria-hidden />
              )}
            </Radio>
          ))}
        </RadioGroup>
        {kind === 'simulated' && <p className="text-quiet">Simulated camera: a fidgeting dog on film.</p>}
        {now.reason && now.phase !== 'refused' && (
          <p role="alert" className="text-warn">
            {now.reason}
          </p>
        )}
      </aside>
    </main>
  )
}

/** The tablet's own camera app takes the photo where the live camera may not be used. */
function OwnCamera({ words, onTaken }: { words: string; onTaken: (photo: File) => void }) {
  return (
    <label className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-tape px-4 font-semibold text-[#17352f] focus-within:outline-3 focus-within:outline-missing">
      <CameraIcon size={18} aria-hidden /> Take with the tablet’s camera app
      <input
        type="file"
        accept="image/*"
        capture="environment"
        aria-label={`Take with the tablet’s camera app: ${words}`}
        className="sr-only"
        onChange={(event) => {
          const photo = event.target.files?.[0]
          event.target.value = ''
          if (photo) onTaken(photo)
        }}
      />
    </label>
  )
}

function headline(guidance: Guidance | null, view: string): string {
  if (!guidance) return view
  const first = guidance.advice.find((a) => !a.fine)
  return first ? first.words : 'Hold it there'
}

function Live({ stream }: { stream: MediaStream | null }) {
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return (
    <video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label="What the camera sees"
      className="absolute inset-0 size-full object-contain"
    />
  )
}

/** The plumb line of the head: it lies on the cross when the camera is level with the eyes. */
function Level({ guidance }: { guidance: Guidance }) {
  if (!guidance.found) return null
  const fine = guidance.good
  return (
    <svg viewBox="-100 -100 200 200" className="absolute inset-x-0 bottom-3 mx-auto size-32" aria-hidden>
      <circle r="92" fill="#10241fcc" stroke="#fff" strokeWidth="3" />
      <path d="M-92 0H-60M60 0H92M0 -92V-60M0 60V92" stroke="#fff" strokeWidth="5" />
      <g
        transform={`translate(${clamp(guidance.turn_deg * 2)} ${clamp(-guidance.nod_deg * 2)}) rotate(${guidance.level_deg})`}
      >
        <path d="M-54 0H54" stroke={fine ? '#fff' : '#f2c230'} strokeWidth="9" strokeLinecap="round" />
        <path d="M0 0V26" stroke={fine ? '#fff' : '#f2c230'} strokeWidth="9" strokeLinecap="round" />
      </g>
    </svg>
  )
}

const clamp = (v: number) => Math.max(-45, Math.min(45, v))
