import { useCallback, useEffect, useRef, useState } from 'react'
import type { Dog } from '../../api/client'
import { plainWishes } from '../../shared/wishes'
import { change, useWished, wishedNow } from '../../outbox/useOutbox'
import { useKeptPast } from '../../undo/keptPast'
import { beginWishes, wishesReducer, type Asked } from './wishesMachine'

const RESTED_MS = 400

/** The Wishes stage: its machine, kept a moment after each change. */
export function useWishes(dog: Dog) {
  const [state, act] = useKeptPast(
    wishesReducer,
    () => beginWishes(askedOf(dog)),
    (s) => s.asked,
    `wishes.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
  )
  const put = useRef(state.asked)
  const newest = useRef({ dog, asked: state.asked })
  useEffect(() => {
    newest.current = { dog, asked: state.asked }
  })
  const [rested, setRested] = useState(state.asked)
  const putDue = useCallback(() => {
    const { dog: now, asked } = newest.current
    const before = put.current
    put.current = asked
    setRested(asked)
    if (asked.wishes !== before.wishes || asked.words !== before.words)
      change(now, 'wishes', { ...asked.wishes, words: asked.words })
    if (asked.traits !== before.traits) change(now, 'traits', { traits: [...asked.traits] })
  }, [])
  useEffect(() => {
    const timer = window.setTimeout(putDue, RESTED_MS)
    return () => window.clearTimeout(timer)
  }, [state.asked, putDue])
  useEffect(() => putDue, [putDue])
  useTheirs(dog, (asked) => {
    if (JSON.stringify(asked) === JSON.stringify(newest.current.asked)) return
    put.current = asked
    setRested(asked)
    act({ type: 'theirs', asked })
  })
  /** Nothing more to ask: even where nothing was wished, that is known then. */
  const finish = () => {
    put.current = state.asked
    change(dog, 'wishes', { ...state.asked.wishes, words: state.asked.words })
  }
  return { state, act, finish, resting: rested === state.asked }
}

/** Takes over what another tablet has changed, while nothing of this one is on its way. */
function useTheirs(dog: Dog, take: (asked: Asked) => void) {
  const seen = useRef(`${dog.versions['wishes']} ${dog.versions['traits']}`)
  const waiting = [useWished(dog, 'wishes'), useWished(dog, 'traits')].some((wish) => wish !== undefined)
  const now = `${dog.versions['wishes']} ${dog.versions['traits']}`
  const taken = useRef(take)
  useEffect(() => {
    taken.current = take
  })
  useEffect(() => {
    if (waiting || seen.current === now) return
    seen.current = now
    taken.current(askedOf(dog))
  }, [now, waiting, dog])
}

function askedOf(dog: Dog): Asked {
  const wish = wishedNow(dog.id, 'wishes')
  return {
    wishes: plainWishes(wish ?? dog.wishes),
    words: wish?.words ?? dog.owner_words,
    traits: wishedNow(dog.id, 'traits')?.traits ?? dog.traits,
  }
}
