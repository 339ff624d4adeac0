import createClient, { type MaybeOptionalInit } from 'openapi-fetch'
import { forgetAnswers, KEPT_AT } from '../kept/keptAnswers'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Dog = Schemas['DogOut']
export type Photo = Schemas['PhotoOut']
export type Measured = Schemas['MeasuredOut']
export type Outline = Schemas['OutlineOut']
export type MovingOutline = Schemas['MovingOutlineOut']
export type Zone = Schemas['ZoneOut']
export type Mark = Schemas['MarkIn']
export type View = Photo['view']
export type State = Photo['state']
export type Edge = Schemas['EdgeIO']
export type Place = Schemas['PlaceIO']
export type HandMeasure = Schemas['HandMeasureIO']
export type Probe = Schemas['ProbeIO']
export type CutComb = Schemas['CutCombIO']
export type Wishes = Schemas['WishesIO']
export type Thumb = Schemas['ThumbOut']
export type Mesh = Schemas['MeshOut']

export type Guidance = Schemas['GuidanceOut']
type Points = readonly (readonly [number, number])[]

const client = createClient<paths>({ baseUrl: '' })

/** What went wrong, in words for the screen. `away` means the server did not answer at all. */
export class Trouble extends Error {
  constructor(
    message: string,
    readonly away: boolean,
    readonly status = 0,
    /** Of a change that another one has overtaken: what is there now and its version. */
    readonly overtaken: { now: unknown; version: string } | null = null,
  ) {
    super(message)
  }
}

export const AWAY =
  'The salon’s server does not answer. Nothing that was kept is lost; if a press did nothing, press again when it is back.'

/** Told to the screens with every answer: when it was given, where the tablet had kept it, else null. */
export const SERVER_EVENT = 'dapwick-server'
const tellOfServer = (keptAt: string | null) =>
  window.dispatchEvent(new CustomEvent<string | null>(SERVER_EVENT, { detail: keptAt }))

type Method = 'get' | 'put' | 'post' | 'delete'
type PathWith<M extends Method> = {
  [Path in keyof paths]: paths[Path] extends Record<M, { responses: unknown }> ? Path : never
}[keyof paths]
/** What a call is asked with: nothing where its address asks for nothing. */
type With<Init> = undefined extends Init ? [init?: Init] : [init: Init]
type Content<Reply> = Reply extends { content: { 'application/json': infer Body } } ? Body : undefined
/** What an address answers when all is well, as the server's own description says. */
type AnswerOf<Path extends keyof paths, M extends Method> = paths[Path][M] extends {
  responses: infer Replies
}
  ? Content<Replies[keyof Replies & (200 | 201 | 202 | 204)]>
  : never

/** The library's own call, without its own type of the answer, which turns pairs into lists of numbers. */
const request = client.request as (
  method: Method,
  path: string,
  init?: object,
) => Promise<{ data?: unknown; error?: unknown; response: Response }>

/** Asks an address; a Trouble with the server's own sentence where it refuses. */
async function answered(method: Method, path: string, init?: object) {
  let answer
  try {
    answer = await request(method, path, init)
  } catch {
    throw new Trouble(AWAY, true)
  }
  tellOfServer(answer.response.headers.get(KEPT_AT))
  if (!answer.response.ok) throw troubleOf(answer.response, answer.error)
  return answer
}

const versioned =
  <M extends Method>(method: M) =>
  async <Path extends PathWith<M>>(
    path: Path,
    ...[init]: With<MaybeOptionalInit<paths[Path], M>>
  ): Promise<Versioned<AnswerOf<Path, M>>> => {
    const answer = await answered(method, path, init)
    return { value: answer.data as AnswerOf<Path, M>, version: versionIn(answer.response) }
  }

/** A picture or a file of a dog that is made on asking. */
const pictured = async (
  path: PathWith<'post'>,
  dog_id: number,
  body: object,
  signal?: AbortSignal,
): Promise<Blob> => {
  const answer = await answered('post', path, { ...named(dog_id), body, signal, parseAs: 'blob' })
  return answer.data as Blob
}

const asked =
  <M extends Method>(method: M) =>
  async <Path extends PathWith<M>>(
    path: Path,
    ...init: With<MaybeOptionalInit<paths[Path], M>>
  ): Promise<AnswerOf<Path, M>> =>
    (await versioned(method)(path, ...init)).value

const [getVersioned, putVersioned, postVersioned] = [versioned('get'), versioned('put'), versioned('post')]
const [get, put, post, del] = [asked('get'), asked('put'), asked('post'), asked('delete')]

/** What runs the salon wants its passcode once more: see features/entrance/Vouch. */
export const askPasscodeAgain = () => window.dispatchEvent(new Event('dapwick-vouch'))

/** What a refusal says, as the screens tell it. A busy server counts as one that is away for a moment. */
export function troubleOf(response: Response, error: unknown): Trouble {
  const { status } = response
  const problem = error as { message?: string; what?: string; now?: unknown; version?: string } | undefined
  const overtaken = status === 409 ? { now: problem?.now, version: problem?.version ?? '' } : null
  if (status === 401) {
    forgetAnswers()
    window.dispatchEvent(new Event('dapwick-kept-out'))
  }
  if (status === 403 && problem?.what === 'administration') askPasscodeAgain()
  return new Trouble(
    problem?.message ?? `The server answered ${status}. Try again.`,
    status >= 502,
    status,
    overtaken,
  )
}

/** A file on its way in, with what is said of it. */
function formOf<Said extends Record<string, string>>(file: File | Blob, said: Said, name = 'file') {
  const form = new FormData()
  if (file instanceof File) form.append('file', file)
  else form.append('file', file, name)
  for (const [key, value] of Object.entries(said)) form.append(key, value)
  return { body: { file: name, ...said }, bodySerializer: () => form }
}

/** Something with the version that a change of it is made on top of. */
export type Versioned<T> = { readonly value: T; readonly version: string | null }

export const versionIn = (response: Response) => response.headers.get('etag')?.replaceAll('"', '') ?? null
export const ifMatch = (base: string | null): Record<string, string> =>
  base ? { 'If-Match': `"${base}"` } : {}

const pairs = (points: Points) => points.map(([x, y]) => [x, y] as [number, number])
const named = (dog_id: number) => ({ params: { path: { dog_id } } })

export const api = {
  today: (day: string | null) => get('/api/today', { params: { query: day ? { day } : {} } }),
  findDogs: (find: string) => get('/api/dogs', { params: { query: { find } } }),
  history: (dog_id: number) => get('/api/dogs/{dog_id}/history', named(dog_id)),
  bookings: (dog_id: number) => get('/api/dogs/{dog_id}/bookings', named(dog_id)),
  book: (dog_id: number, body: Schemas['BookingIn']) =>
    post('/api/dogs/{dog_id}/bookings', { ...named(dog_id), body }),
  changeBooking: (booking_id: number, body: Schemas['BookingIn']) =>
    put('/api/bookings/{booking_id}', { params: { path: { booking_id } }, body }),
  cancelBooking: (booking_id: number) =>
    del('/api/bookings/{booking_id}', { params: { path: { booking_id } } }),
  restoreBooking: (booking_id: number) =>
    post('/api/bookings/{booking_id}/restore', { params: { path: { booking_id } } }),
  beginBooking: (booking_id: number) =>
    post('/api/bookings/{booking_id}/begin', { params: { path: { booking_id } } }),
  endVisit: (dog_id: number) => post('/api/dogs/{dog_id}/visits/end', named(dog_id)),
  reopenVisit: (dog_id: number) => del('/api/dogs/{dog_id}/visits/end', named(dog_id)),
  removeDog: (dog_id: number) => del('/api/dogs/{dog_id}', named(dog_id)),
  restoreDog: (dog_id: number) => post('/api/dogs/{dog_id}/restore', named(dog_id)),
  removed: () => get('/api/removed'),
  purge: (dog_id: number, name: string) =>
    post('/api/removed/{dog_id}/purge', { ...named(dog_id), body: { name } }),
  takeInBundle: (file: File) => post('/api/bundles', formOf(file, {})),
  salon: () => get('/api/salon'),
  startSalon: (body: Schemas['BeginningIn']) => post('/api/salon/start', { body }),
  nameSalon: (name: string) => put('/api/salon/name', { body: { name } }),
  sayDays: (days: Schemas['DaysIn']['days']) => put('/api/salon/days', { body: { days } }),
  demo: (what: 'reset' | 'remove') => post('/api/salon/demo', { body: { do: what } }),
  tryDemo: () => post('/api/salon/try'),
  entrance: () => get('/api/entrance'),
  enter: (code: string) => post('/api/entrance', { body: { code } }),
  enterAgain: (code: string) => post('/api/entrance/again', { body: { code } }),
  leave: () => del('/api/entrance'),
  putPasscode: (code: string) => put('/api/passcode', { body: { code } }),
  backups: () => get('/api/backups'),
  putBackupSetting: (body: Schemas['BackupSettingIO']) => put('/api/backups/setting', { body }),
  backUp: () => post('/api/backups'),
  restore: (name: string) => post('/api/backups/restore', { body: { name } }),
  restoreFile: (file: File) => post('/api/backups/file', formOf(file, {})),
  undoRestore: () => post('/api/backups/undo'),
  job: (job_id: number) => get('/api/jobs/{job_id}', { params: { path: { job_id } } }),
  stopJob: (job_id: number) => del('/api/jobs/{job_id}', { params: { path: { job_id } } }),
  guide: () => get('/api/mark-guide'),
  dog: (dog_id: number) => get('/api/dogs/{dog_id}', { params: { path: { dog_id } } }),
  addDog: (body: Schemas['NewDog']) => post('/api/dogs', { body }),
  addPhoto: (dog_id: number, file: File, view: View, state: State) =>
    post('/api/dogs/{dog_id}/photos', { ...named(dog_id), ...formOf(file, { view, state, usual: state }) }),
  /** Into the slot it shows; `usual`: the state of the photos dropped with it. */
  sortPhoto: (dog_id: number, file: File, usual: State) =>
    post('/api/dogs/{dog_id}/photos', {
      ...named(dog_id),
      ...formOf(file, { view: 'guess', state: 'guess', usual }),
    }),
  removePhoto: (photo_id: number) => del('/api/photos/{photo_id}', { params: { path: { photo_id } } }),
  restorePhoto: (photo_id: number) =>
    post('/api/photos/{photo_id}/restore', { params: { path: { photo_id } } }),
  measure: (dog_id: number) => get('/api/dogs/{dog_id}/measure', { params: { path: { dog_id } } }),
  next: (dog_id: number) => get('/api/dogs/{dog_id}/next', { params: { path: { dog_id } } }),
  head: (dog_id: number) => get('/api/dogs/{dog_id}/head', { params: { path: { dog_id } } }),
  newVisit: (dog_id: number) => post('/api/dogs/{dog_id}/visits', { params: { path: { dog_id } } }),
  bands: () => get('/api/bands'),
  putBands: (body: Schemas['BandsIn']) => put('/api/bands', { body }),
  movePhotos: (moves: Schemas['MovesIn']['moves']) => post('/api/photos/moves', { body: { moves } }),
  edge: (photo_id: number) => getVersioned('/api/photos/{photo_id}/edge', { params: { path: { photo_id } } }),
  putEdge: (photo_id: number, line: Points, neck: Points | null, base: string | null) =>
    putVersioned('/api/photos/{photo_id}/edge', {
      params: { path: { photo_id } },
      headers: ifMatch(base),
      body: { line: pairs(line), neck: neck && pairs(neck) },
    }),
  followTrail: (photo_id: number, points: Points) =>
    postVersioned('/api/photos/{photo_id}/edge/trail', {
      params: { path: { photo_id } },
      body: { points: pairs(points) },
    }),
  findEdge: (photo_id: number) =>
    post('/api/photos/{photo_id}/edge/found', { params: { path: { photo_id } } }),
  followStrokes: (photo_id: number, strokes: readonly { points: Points; coat: boolean }[]) =>
    postVersioned('/api/photos/{photo_id}/edge/strokes', {
      params: { path: { photo_id } },
      body: {
        strokes: strokes.map(({ points, coat }) => ({ points: pairs(points), coat })),
      },
    }),
  lookAgain: (photo_id: number) => post('/api/photos/{photo_id}/look', { params: { path: { photo_id } } }),
  stopLooking: (photo_id: number) => del('/api/photos/{photo_id}/look', { params: { path: { photo_id } } }),
  givePhone: (dog_id: number, state: State) =>
    post('/api/dogs/{dog_id}/phone', { ...named(dog_id), body: { state } }),
  phone: (token: string) => get('/api/phone/{token}', { params: { path: { token } } }),
  turnPhone: (token: string, state: State) =>
    put('/api/phone/{token}', { params: { path: { token } }, body: { state } }),
  bringPhoto: (token: string, file: File, view: View) =>
    post('/api/phone/{token}/photos', { params: { path: { token } }, ...formOf(file, { view }) }),
  trust: () => get('/api/trust'),
  guideFrame: (frame: Blob, view: View, signal?: AbortSignal) =>
    post('/api/camera/guide', { ...formOf(frame, { view }, 'frame.jpg'), signal }),
  preview: (dog_id: number, body: Schemas['PreviewIn'], signal?: AbortSignal) =>
    post('/api/dogs/{dog_id}/outline/preview', { params: { path: { dog_id } }, body, signal }),
  picture: (dog_id: number, body: Schemas['PictureIn'], signal?: AbortSignal) =>
    pictured('/api/dogs/{dog_id}/outline/picture', dog_id, body, signal),
  page: (dog_id: number, body: Schemas['PreviewIn']) =>
    pictured('/api/dogs/{dog_id}/outline/page', dog_id, body),
  surface: (dog_id: number, body: Schemas['SurfaceIn']) =>
    pictured('/api/dogs/{dog_id}/outline/surface', dog_id, body),
  coming: (dog_id: number, body: Schemas['OutlineIn']) =>
    post('/api/dogs/{dog_id}/outline/coming', { params: { path: { dog_id } }, body }),
  moving: (dog_id: number, body: Schemas['OutlineIn']) =>
    post('/api/dogs/{dog_id}/outline/moving', { params: { path: { dog_id } }, body }),
  planAhead: (dog_id: number, body: Schemas['OutlineIn']) =>
    post('/api/dogs/{dog_id}/outline/ahead', { params: { path: { dog_id } }, body }),
  instead: (dog_id: number, body: Schemas['OutlineIn']) =>
    post('/api/dogs/{dog_id}/outline/instead', { params: { path: { dog_id } }, body }),
  kit: () => getVersioned('/api/kit'),
  usualKit: () => get('/api/kit/usual'),
  cutGuide: () => get('/api/cut-guide'),
  cut: (dog_id: number) => get('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } } }),
  startCut: (dog_id: number, again: boolean) =>
    post('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } }, body: { again } }),
  endCut: (dog_id: number, stopped_after: string | null) =>
    post('/api/dogs/{dog_id}/cut/end', { params: { path: { dog_id } }, body: { stopped_after } }),
  takeUpCut: (dog_id: number) => del('/api/dogs/{dog_id}/cut/end', { params: { path: { dog_id } } }),
  choices: () => get('/api/outlines'),
  thumb: (dog_id: number, family: string, signal?: AbortSignal) =>
    get('/api/dogs/{dog_id}/outlines/{family}', { params: { path: { dog_id, family } }, signal }),
  nextTime: (dog_id: number) => get('/api/dogs/{dog_id}/next-time', named(dog_id)),
  hand: (dog_id: number) => get('/api/dogs/{dog_id}/hand', named(dog_id)),
  handNotTold: () => get('/api/salon/own-hand'),
  tellOfHand: (body: Schemas['ToldIn']) => put('/api/salon/own-hand', { body }),
  lasting: (dog_id: number, body: Schemas['OutlineIn']) =>
    post('/api/dogs/{dog_id}/outline/lasting', { params: { path: { dog_id } }, body }),
  howFarOff: () => get('/api/salon/how-far-off'),
  putFactor: (kind: string, factor: number) =>
    put('/api/salon/how-far-off/{kind}', { params: { path: { kind } }, body: { factor } }),
  hours: () => get('/api/salon/hours'),
  putHours: (body: Schemas['HoursIO']) => put('/api/salon/hours', { body }),
  practisers: () => get('/api/practice/people'),
  practise: (name: string) => post('/api/practice/people', { body: { name } }),
  changePractiser: (person_id: number, body: Schemas['PersonChangeIn']) =>
    put('/api/practice/people/{person_id}', { params: { path: { person_id } }, body }),
  practiser: (person_id: number) =>
    get('/api/practice/people/{person_id}', { params: { path: { person_id } } }),
  forTrainer: () => get('/api/practice/trainer'),
  practiceTask: (person_id: number, drill: Schemas['TaskIn']['drill']) =>
    post('/api/practice/people/{person_id}/tasks', { params: { path: { person_id } }, body: { drill } }),
  practiceAnswer: (task_id: number, answer: Schemas['AnswerIn']['answer']) =>
    post('/api/practice/tasks/{task_id}/answer', { params: { path: { task_id } }, body: { answer } }),
  check: (dog_id: number) => get('/api/dogs/{dog_id}/check', named(dog_id)),
  mesh: (dog_id: number) => get('/api/dogs/{dog_id}/mesh', { params: { path: { dog_id } } }),
  keepOwn: (body: Schemas['VariantIn']) => post('/api/outlines/own', { body }),
  takeIn: (document: Record<string, unknown>) => post('/api/outlines/own/file', { body: { document } }),
  ownFile: (variant_id: number) =>
    get('/api/outlines/own/{variant_id}/file', { params: { path: { variant_id } } }),
  removeOwn: (variant_id: number) =>
    del('/api/outlines/own/{variant_id}', { params: { path: { variant_id } } }),
}

export const screenUrl = (photo: Pick<Photo, 'picture'>) => `/api/pictures/${photo.picture}`
