import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useSyncExternalStore } from 'react'
import type { Dog, Schemas } from '../api/client'
import type { Kept } from './makeOutbox'
import { outbox } from './outbox'
import { fetchAnew, putAnswer } from '../shared/answers'
import { of, wished, type Outbox } from './outboxMachine'

type Cut = Schemas['CutOut']

export const useBox = (): Outbox => useSyncExternalStore(outbox.subscribe, outbox.get)

/** What is to be changed, part by part: its name, words for its user, address and body. */
export type Parts = {
  about: Schemas['AboutIn']
  kind: Schemas['HeadKindIn']
  traits: Schemas['TraitsIn']
  wishes: Schemas['WishesIn']
  'hand-measures': Schemas['HandMeasureIO'][]
  'coat-probes': Schemas['ProbeIO'][]
  stylist: Schemas['StylistIn']
  'next-note': Schemas['NoteIn']
  outline: Schemas['OutlineIn']
  'touched-up': Schemas['TouchedUpIn']
  'combed-after': Schemas['CutCombIO'][]
  'for-next': Schemas['ForNextIn']
}
export type PartName = keyof Parts

const WORDS: Readonly<Record<PartName, string>> = {
  about: 'Name and coat',
  kind: 'The kind of head',
  traits: 'The handling',
  wishes: 'The wishes',
  'hand-measures': 'The calliper readings',
  'coat-probes': 'The comb depths',
  stylist: 'Who cuts',
  'next-note': 'The note for next time',
  outline: 'The outline',
  'touched-up': 'What was taken in',
  'combed-after': 'The comb depths after the cut',
  'for-next': 'The note’s parts',
}

export const partOf = (dogId: number, name: PartName) => `${name}/${dogId}`
const versionName = (name: PartName) => name.replace('-', '_')

const wishFor = <P extends PartName>(dog: Dog, name: P, body: Parts[P]) => ({
  part: partOf(dog.id, name),
  words: `${WORDS[name]} of ${dog.name}`,
  path: `/api/dogs/${dog.id}/${name}`,
  body,
  base: dog.versions[versionName(name)] ?? null,
})

/** Change a part of a dog: at once on the screen, on the server as soon as it can be reached. */
export const change = <P extends PartName>(dog: Dog, name: P, body: Parts[P]) =>
  outbox.put(wishFor(dog, name, body))

/** The same where a refusal is told beside the field: rejects with it. */
export const askChange = <P extends PartName>(dog: Dog, name: P, body: Parts[P]) =>
  outbox.ask(wishFor(dog, name, body))

/** The wish for a part as it stands now, outside a view. */
export const wishedNow = <P extends PartName>(dogId: number, name: P) =>
  wished(outbox.get(), partOf(dogId, name)) as Parts[P] | undefined

/** The wish for a part that is not kept yet; undefined once it is. */
export function useWished<P extends PartName>(dog: Dog, name: P): Parts[P] | undefined {
  return wished(useBox(), partOf(dog.id, name)) as Parts[P] | undefined
}

/** How a part is doing. */
export function usePart(part: string): 'kept' | 'waiting' | 'away' | 'asking' {
  const box = useBox()
  const mine = of(box, part)
  if (!mine.length) return 'kept'
  if (mine.some((change) => change.state.kind !== 'waiting')) return 'asking'
  return box.away ? 'away' : 'waiting'
}

/** Calls back for each change of some parts that the server has kept. */
export function useKept(told: (kept: Kept) => void) {
  const tell = useRef(told)
  useEffect(() => {
    tell.current = told
  })
  useEffect(() => outbox.onKept((kept) => tell.current(kept)), [])
}

const DOG_ANSWERS: readonly string[] = [
  'about',
  'kind',
  'traits',
  'wishes',
  'coat-probes',
  'stylist',
  'next-note',
  'touched-up',
  'combed-after',
  'for-next',
]
/** What is drawn from a dog's wishes or head anew. */
const RESTING: Readonly<Record<string, readonly string[]>> = {
  wishes: ['thumb', 'cut'],
  traits: ['cut', 'today'],
  stylist: ['cut'],
  'hand-measures': ['dog', 'head'],
  'coat-probes': ['cut'],
  kind: ['measure', 'thumb'],
  about: ['today', 'thumb'],
  'next-note': ['history'],
  outline: ['dog', 'cut', 'history'],
}

/** Keeps what is fetched in step with what was kept; once, for the whole application. */
export function useOutboxKeepsStep() {
  const queries = useQueryClient()
  useKept((kept) => {
    const [name = '', id] = kept.part.split('/')
    const key = ['dog', Number(id)]
    const known = queries.getQueryData<Dog>(key)
    const now = DOG_ANSWERS.includes(name) ? (kept.answer as Dog) : known && withKept(known, name, kept)
    if (now) putAnswer(queries, key, now)
    if (name === 'cut-step') {
      const cut = queries.getQueryData<Cut>(['cut', Number(id)])
      if (cut) putAnswer(queries, ['cut', Number(id)], withStep(cut, kept))
    }
    for (const key of RESTING[name] ?? []) void fetchAnew(queries, [key])
  })
}

/** A known cut once what was said of a step is kept: its screen begins with it when it is opened again. */
function withStep(cut: Cut, { part, body }: Kept): Cut {
  const step = part.split('/').slice(2).join('/')
  const entry = body as Cut['log'][string]
  const others = Object.entries(cut.log).filter(([id]) => id !== step)
  return { ...cut, log: Object.fromEntries(entry.state === 'open' ? others : [...others, [step, entry]]) }
}

/**
 * A known dog once a part of it is kept: the next change is made on top of this one, however late the dog is fetched
 * anew.
 */
function withKept(dog: Dog, name: string, { body, version }: Kept): Dog | undefined {
  if (!(name in WORDS) || version === null) return undefined
  const versions = { ...dog.versions, [versionName(name as PartName)]: version }
  const hand = name === 'hand-measures' ? { hand_measures: body as Parts['hand-measures'] } : {}
  return { ...dog, ...hand, versions }
}
