import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { Keyboard, Moon, Sun } from 'lucide-react'
import { useEffect, useState, useSyncExternalStore } from 'react'
import { useShortcuts } from './useShortcuts'
import { stored } from './stored'
import { useUnit } from './units'

const mode = stored<'paper' | 'table'>('mode', ['paper', 'table'])

const KEYS: [string, string][] = [
  ['Tab', 'next mark or field'],
  ['Arrows', 'move the chosen mark by 1 px, with Shift by 10'],
  ['Enter', 'accept the suggestion for the next mark'],
  ['Space', 'put the next mark in the middle of the picture, to be moved by arrows'],
  ['+, − and 0', 'closer, farther, the whole photo; also by wheel and two fingers'],
  ['Alt + arrows', 'move the photo under the glass'],
  ['Digits', 'a calliper’s reading, typed at nothing, finds its field'],
  ['Delete', 'remove the chosen mark'],
  ['Ctrl + Z, Ctrl + Y', 'undo, redo, in every stage, after a reload too'],
  ['[ and ]', 'previous and next photo'],
  ['U', 'not sure of the chosen mark'],
  ['Space, Page Down', 'take the photo (camera)'],
  ['P, C, N', 'pull the line, chalk on coat, chalk beside it (a photo’s edge)'],
  ['Space, →, Page Down', 'done, next step (cut); ← and Page Up go back'],
  ['S, N, W, L, H', 'skip, note, why, list, stop here (cut)'],
  ['Arrows, Enter', 'turn the head, or move the ring and set the mark (practice)'],
  ['1 to 8', 'the place that is long (practice)'],
  ['?', 'this list'],
]

const ROUND = 'grid size-12 place-items-center rounded-full hover:bg-tape-deep/40'

/** Unit, table mode and the list of keys, at the tape's end. */
export function Settings() {
  const [unit, toggleUnit] = useUnit()
  const now = useSyncExternalStore(mode.subscribe, mode.get)
  const [keys, setKeys] = useState(false)
  useEffect(() => {
    document.documentElement.dataset['mode'] = now
  }, [now])
  useShortcuts((event) => {
    if (event.key !== '?') return false
    setKeys(true)
    return true
  })
  return (
    <>
      <button
        className={`${ROUND} text-lg font-bold`}
        onClick={toggleUnit}
        aria-label={`Lengths in ${unit}; change`}
      >
        {unit}
      </button>
      <button
        className={ROUND}
        onClick={() => mode.set(now === 'paper' ? 'table' : 'paper')}
        aria-pressed={now === 'table'}
        aria-label="Table mode"
      >
        {now === 'paper' ? <Moon size={22} aria-hidden /> : <Sun size={22} aria-hidden />}
      </button>
      <button className={`${ROUND} phone:hidden`} onClick={() => setKeys(true)} aria-label="Keys">
        <Keyboard size={22} aria-hidden />
      </button>
      <Dialog open={keys} onClose={() => setKeys(false)} className="relative z-30">
        <div className="fixed inset-0 grid place-items-center bg-black/50 p-4">
          <DialogPanel className="w-full max-w-lg rounded-xl bg-sheet p-6 text-ink">
            <DialogTitle className="mb-3 text-xl font-bold">Keys</DialogTitle>
            <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
              {KEYS.map(([key, does]) => (
                <div key={key} className="contents">
                  <dt className="font-bold">{key}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </DialogPanel>
        </div>
      </Dialog>
    </>
  )
}
