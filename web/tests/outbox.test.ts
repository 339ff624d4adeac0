import { describe, expect, it } from 'vitest'
import { Trouble } from '../src/api/client'
import { makeOutbox, type Send } from '../src/outbox/makeOutbox'
import {
  asking,
  due,
  empty,
  of,
  outboxReducer,
  wished,
  type Outbox,
  type OutboxAction,
} from '../src/outbox/outboxMachine'

const wish = (part: string, body: unknown, base: string | null = 'v0') => ({
  part,
  words: part,
  path: `/api/${part}`,
  body,
  base,
})
const play = (...actions: OutboxAction[]): Outbox => actions.reduce(outboxReducer, empty)
const put = (part: string, body: unknown, base?: string): OutboxAction => ({
  type: 'put',
  wish: wish(part, body, base ?? 'v0'),
})

describe('outbox machine', () => {
  it('keeps the newest wish of a part while it waits, on top of what was seen', () => {
    const box = play(put('wishes', 1), put('wishes', 2, 'later'))
    expect(box.changes).toHaveLength(1)
    expect(wished(box, 'wishes')).toBe(2)
    expect(box.changes[0]?.base).toBe('v0')
  })

  it('lets a wish follow one that is on the wire, on the version which that one makes', () => {
    const sent = play(put('wishes', 1), { type: 'sending', id: 1 }, put('wishes', 2))
    expect(of(sent, 'wishes').map((c) => c.base)).toEqual(['v0', null])
    expect(due(sent)).toBeUndefined()
    const kept = outboxReducer(sent, { type: 'kept', id: 1, version: 'v1' })
    expect(due(kept)).toMatchObject({ body: 2, base: 'v1' })
  })

  it('holds up no other part while one waits for its user', () => {
    const box = play(
      put('wishes', 1),
      put('traits', 2),
      { type: 'sending', id: 1 },
      {
        type: 'overtaken',
        id: 1,
        reason: 'changed',
        version: 'v9',
      },
    )
    expect(due(box)?.part).toBe('traits')
    expect(asking(box).map((c) => c.part)).toEqual(['wishes'])
  })

  it('settles an overtaken part either way, with the newest wish', () => {
    const asked = play(put('wishes', 1), { type: 'sending', id: 1 }, put('wishes', 2), {
      type: 'overtaken',
      id: 1,
      reason: 'changed',
      version: 'v9',
    })
    const mine = outboxReducer(asked, { type: 'mine', part: 'wishes' })
    expect(mine.changes).toHaveLength(1)
    expect(due(mine)).toMatchObject({ body: 2, base: 'v9' })
    expect(outboxReducer(asked, { type: 'theirs', part: 'wishes' }).changes).toEqual([])
  })

  it('does not send what was overtaken by itself when more is wished of it', () => {
    const asked = play(
      put('wishes', 1),
      { type: 'sending', id: 1 },
      {
        type: 'overtaken',
        id: 1,
        reason: 'changed',
        version: 'v9',
      },
    )
    const more = outboxReducer(asked, put('wishes', 3))
    expect(due(more)).toBeUndefined()
    expect(wished(more, 'wishes')).toBe(3)
  })

  it('tries what was refused again only with another wish', () => {
    const refused = play(put('kit', 1), { type: 'sending', id: 1 }, { type: 'refused', id: 1, reason: 'no' })
    expect(due(refused)).toBeUndefined()
    expect(due(outboxReducer(refused, put('kit', 2)))?.body).toBe(2)
  })
})

/** A shelf and a server that answers as it is told to. */
function desk(answers: (() => Promise<{ answer: unknown; version: string | null }>)[]) {
  const kept = new Map<string, string>()
  const shelf = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  }
  const got: [unknown, string | null][] = []
  const send: Send = (change) => {
    got.push([change.body, change.base])
    const answer = answers.shift()
    return answer ? answer() : new Promise(() => undefined)
  }
  return { shelf, got, open: () => makeOutbox(send, shelf, 5) }
}
const ok = (version: string) => () => Promise.resolve({ answer: {}, version })
const away = () => Promise.reject(new Trouble('away', true))
const overtaken = () => Promise.reject(new Trouble('changed', false, 409, { now: 'theirs', version: 'v7' }))
const settled = () => new Promise((resolve) => setTimeout(resolve, 40))

describe('outbox', () => {
  it('tries a server that is away until it has it, in order', async () => {
    const { got, open } = desk([away, away, ok('v1'), ok('v2')])
    const box = open()
    box.put(wish('a', 1))
    box.put(wish('b', 2))
    await settled()
    expect(got.map(([body]) => body)).toEqual([1, 1, 1, 2])
    expect(box.get().changes).toEqual([])
    expect(box.get().away).toBe(false)
  })

  it('outlives a reload', async () => {
    const { got, open } = desk([away])
    open().put(wish('a', 1))
    const again = open()
    expect(wished(again.get(), 'a')).toBe(1)
    await settled()
    expect(got.length).toBeGreaterThan(1)
  })

  it('asks its user where another tablet was first, and keeps mine over theirs on request', async () => {
    const { got, open } = desk([overtaken, ok('v8')])
    const box = open()
    const told: unknown[] = []
    box.onKept(({ part, body, version }) => told.push([part, body, version]))
    box.put(wish('a', 'mine', 'v0'))
    await settled()
    expect(asking(box.get())).toHaveLength(1)
    box.settle('a', 'mine')
    await settled()
    expect(got.at(-1)).toEqual(['mine', 'v7'])
    expect(told).toEqual([['a', 'mine', 'v8']])
  })

  it('tells a refusal to the field that asked, and lets the wish go', async () => {
    const refusal = new Trouble('too long', false, 422)
    const { open } = desk([() => Promise.reject(refusal)])
    const box = open()
    await expect(box.ask(wish('a', 1))).rejects.toBe(refusal)
    expect(box.get().changes).toEqual([])
  })
})
