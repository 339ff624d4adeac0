import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { AWAY, ifMatch, SERVER_EVENT, troubleOf, versionIn } from '../src/api/client'
import { KEPT_AT } from '../src/kept/keptAnswers'

const answer = (status: number, body: unknown = {}, headers: Record<string, string> = {}) =>
  new Response(status === 204 ? null : JSON.stringify(body), {
    status,
    headers: { 'Content-Type': 'application/json', ...headers },
  })

describe('what a refusal says', () => {
  const told: string[] = []
  beforeEach(() => {
    told.length = 0
    vi.stubGlobal('window', { dispatchEvent: (event: Event) => void told.push(event.type) })
  })
  afterEach(() => vi.unstubAllGlobals())

  it('is the server’s own sentence', () => {
    const trouble = troubleOf(answer(422), { message: 'mm: expected a number' })
    expect([trouble.message, trouble.status, trouble.away]).toEqual(['mm: expected a number', 422, false])
    expect(troubleOf(answer(418), undefined).message).toBe('The server answered 418. Try again.')
  })

  it.each([
    [500, false],
    [502, true],
    [503, true],
    [504, true],
  ])('%s counts as away: %s', (status, away) => {
    expect(troubleOf(answer(status), {}).away).toBe(away)
  })

  it('carries what is there now where another tablet was first', () => {
    const { overtaken } = troubleOf(answer(409), { message: 'changed', now: { a: 1 }, version: 'v7' })
    expect(overtaken).toEqual({ now: { a: 1 }, version: 'v7' })
    expect(troubleOf(answer(422), {}).overtaken).toBeNull()
  })

  it('asks for the passcode where that is what is wanted', () => {
    troubleOf(answer(401), {})
    troubleOf(answer(403), { what: 'administration' })
    troubleOf(answer(403), { what: 'another origin' })
    expect(told).toEqual(['dapwick-kept-out', 'dapwick-vouch'])
  })
})

describe('versions', () => {
  it('are read from an answer and sent with a change', () => {
    expect(versionIn(answer(200, {}, { ETag: '"abc"' }))).toBe('abc')
    expect(versionIn(answer(200))).toBeNull()
    expect(ifMatch('abc')).toEqual({ 'If-Match': '"abc"' })
    expect(ifMatch(null)).toEqual({})
  })
})

describe('asking the server', () => {
  const asked: { method: string; path: string; body: string; match: string | null }[] = []
  let reply: () => Promise<Response>
  let api: typeof import('../src/api/client').api
  beforeEach(async () => {
    asked.length = 0
    vi.stubGlobal('window', new EventTarget())
    vi.stubGlobal(
      'fetch',
      vi.fn(async (request: Request) => {
        asked.push({
          method: request.method,
          path: new URL(request.url, 'http://here').pathname + new URL(request.url, 'http://here').search,
          body: await request.clone().text(),
          match: request.headers.get('If-Match'),
        })
        return reply()
      }),
    )
    vi.stubGlobal(
      'Request',
      class extends Request {
        constructor(input: RequestInfo | URL, init?: RequestInit) {
          super(typeof input === 'string' ? new URL(input, 'http://here') : input, init)
        }
      },
    )
    // The client takes hold of the browser's fetch when it is loaded.
    vi.resetModules()
    ;({ api } = await import('../src/api/client'))
  })
  afterEach(() => vi.unstubAllGlobals())

  it('goes to the address with what is said', async () => {
    reply = async () => answer(200, { id: 3 })
    await expect(api.dog(3)).resolves.toEqual({ id: 3 })
    await api.findDogs('fog')
    await api.endCut(3, null)
    expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual([
      'GET /api/dogs/3',
      'GET /api/dogs?find=fog',
      'POST /api/dogs/3/cut/end',
    ])
    expect(JSON.parse(asked[2]?.body ?? '')).toEqual({ stopped_after: null })
  })

  it('brings the version along and sends the one it was made on', async () => {
    reply = async () => answer(200, { line: [[1, 2]] }, { ETag: '"v2"' })
    const kept = await api.putEdge(5, [[1, 2]], null, 'v1')
    expect(kept).toEqual({ value: { line: [[1, 2]] }, version: 'v2' })
    expect(asked[0]?.match).toBe('"v1"')
    await api.putEdge(5, [[1, 2]], null, null)
    expect(asked[1]?.match).toBeNull()
  })

  it('sends a file as a form, by its name', async () => {
    reply = async () => answer(201, { id: 8 })
    await api.addPhoto(3, new File(['picture'], 'front.jpg', { type: 'image/jpeg' }), 'front', 'dry')
    expect(asked[0]?.body).toContain('filename="front.jpg"')
    expect(asked[0]?.body).toContain('name="view"')
  })

  it('tells the screens which answers this tablet had kept', async () => {
    const told: (string | null)[] = []
    window.addEventListener(SERVER_EVENT, (event) => told.push((event as CustomEvent<string | null>).detail))
    reply = async () => answer(200, { id: 3 }, { [KEPT_AT]: 'at nine' })
    await api.dog(3)
    reply = async () => answer(200, { id: 3 })
    await api.dog(3)
    expect(told).toEqual(['at nine', null])
  })

  it('says that the server is away where nobody answers', async () => {
    reply = async () => {
      throw new TypeError('no network')
    }
    await expect(api.dog(3)).rejects.toMatchObject({ message: AWAY, away: true })
  })

  it('rejects with the server’s sentence where it refuses', async () => {
    reply = async () => answer(404, { message: 'There is no dog 3.' })
    await expect(api.dog(3)).rejects.toMatchObject({
      message: 'There is no dog 3.',
      status: 404,
      away: false,
    })
  })
})
