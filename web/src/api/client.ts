import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Dog = Schemas['DogOut']
export type Photo = Schemas['PhotoOut']
export type Measured = Schemas['MeasuredOut']
export type Outline = Schemas['OutlineOut']
export type Zone = Schemas['ZoneOut']
export type Mark = Schemas['MarkIn']
export type View = Photo['view']
export type State = Photo['state']
export type HandMeasure = Schemas['HandMeasureIO']
export type Probe = Schemas['ProbeIO']
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

export const AWAY = 'The salon’s server does not answer. Nothing is lost here: it is tried again by itself.'

/** The answer's data as T (the path's own answer type, with its tuples), or a Trouble with the server's own sentence. */
async function told<T>(call: Promise<{ data?: unknown; error?: unknown; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch {
    throw new Trouble(AWAY, true)
  }
  if (answer.response.ok) return answer.data as T
  throw troubleOf(answer.response, answer.error)
}

/** What runs the salon wants its passcode once more: see features/entrance/Vouch. */
export const askPasscodeAgain = () => window.dispatchEvent(new Event('dapwick-vouch'))

/** What a refusal says, as the screens tell it. A busy server counts as one that is away for a moment. */
export function troubleOf(response: Response, error: unknown): Trouble {
  const { status } = response
  const problem = error as { message?: string; what?: string; now?: unknown; version?: string } | undefined
  const overtaken = status === 409 ? { now: problem?.now, version: problem?.version ?? '' } : null
  if (status === 401) window.dispatchEvent(new Event('dapwick-kept-out'))
  if (status === 403 && problem?.what === 'administration') askPasscodeAgain()
  return new Trouble(
    problem?.message ?? `The server answered ${status}. Try again.`,
    status >= 502,
    status,
    overtaken,
  )
}

/** A file on its way in, with what is said of it. */
function formOf(file: Blob, said: Record<string, string> = {}, name?: string) {
  const form = new FormData()
  if (name) form.append('file', file, name)
  else form.append('file', file)
  for (const [key, value] of Object.entries(said)) form.append(key, value)
  return { body: form as never, bodySerializer: (body: unknown) => body as FormData }
}

/** Something with the version that a change of it is made on top of. */
export type Versioned<T> = { readonly value: T; readonly version: string | null }

async function versioned<T>(
  call: Promise<{ data?: unknown; error?: unknown; response: Response }>,
): Promise<Versioned<T>> {
  const value = await told<T>(call)
  return { value, version: versionIn((await call).response) }
}

export const versionIn = (response: Response) => response.headers.get('etag')?.replaceAll('"', '') ?? null
export const ifMatch = (base: string | null): Record<string, string> =>
  base ? { 'If-Match': `"${base}"` } : {}

const named = (dog_id: number) => ({ params: { path: { dog_id } } })

export const api = {
  today: (day: string | null) =>
    told<Schemas['DayOut']>(client.GET('/api/today', { params: { query: day ? { day } : {} } })),
  findDogs: (find: string) =>
    told<Schemas['BriefOut'][]>(client.GET('/api/dogs', { params: { query: { find } } })),
  history: (dog_id: number) =>
    told<Schemas['HistoryOut']>(client.GET('/api/dogs/{dog_id}/history', named(dog_id))),
  bookings: (dog_id: number) =>
    told<Schemas['BookingOut'][]>(client.GET('/api/dogs/{dog_id}/bookings', named(dog_id))),
  book: (dog_id: number, body: Schemas['BookingIn']) =>
    told<Schemas['BookingOut']>(client.POST('/api/dogs/{dog_id}/bookings', { ...named(dog_id), body })),
  changeBooking: (booking_id: number, body: Schemas['BookingIn']) =>
    told<Schemas['BookingOut']>(
      client.PUT('/api/bookings/{booking_id}', { params: { path: { booking_id } }, body }),
    ),
  cancelBooking: (booking_id: number) =>
    told<unknown>(client.DELETE('/api/bookings/{booking_id}', { params: { path: { booking_id } } })),
  restoreBooking: (booking_id: number) =>
    told<unknown>(client.POST('/api/bookings/{booking_id}/restore', { params: { path: { booking_id } } })),
  beginBooking: (booking_id: number) =>
    told<Dog>(client.POST('/api/bookings/{booking_id}/begin', { params: { path: { booking_id } } })),
  endVisit: (dog_id: number) => told<Dog>(client.POST('/api/dogs/{dog_id}/visits/end', named(dog_id))),
  reopenVisit: (dog_id: number) => told<Dog>(client.DELETE('/api/dogs/{dog_id}/visits/end', named(dog_id))),
  removeDog: (dog_id: number) => told<unknown>(client.DELETE('/api/dogs/{dog_id}', named(dog_id))),
  restoreDog: (dog_id: number) => told<unknown>(client.POST('/api/dogs/{dog_id}/restore', named(dog_id))),
  removed: () => told<Schemas['RemovedOut'][]>(client.GET('/api/removed')),
  purge: (dog_id: number, name: string) =>
    told<Schemas['RemovedOut']>(
      client.POST('/api/removed/{dog_id}/purge', { ...named(dog_id), body: { name } }),
    ),
  takeInBundle: (file: File) => told<Dog>(client.POST('/api/bundles', formOf(file))),
  salon: () => told<Schemas['SalonOut']>(client.GET('/api/salon')),
  startSalon: (body: Schemas['BeginningIn']) =>
    told<Schemas['SalonOut']>(client.POST('/api/salon/start', { body })),
  nameSalon: (name: string) => told<Schemas['SalonOut']>(client.PUT('/api/salon/name', { body: { name } })),
  demo: (what: 'reset' | 'remove') =>
    told<Schemas['SalonOut']>(client.POST('/api/salon/demo', { body: { do: what } })),
  entrance: () => told<Schemas['EntranceOut']>(client.GET('/api/entrance')),
  enter: (code: string) => told<Schemas['EntranceOut']>(client.POST('/api/entrance', { body: { code } })),
  enterAgain: (code: string) => told<unknown>(client.POST('/api/entrance/again', { body: { code } })),
  leave: () => told<Schemas['EntranceOut']>(client.DELETE('/api/entrance')),
  putPasscode: (code: string) => told<unknown>(client.PUT('/api/passcode', { body: { code } })),
  backups: () => told<Schemas['BackupsOut']>(client.GET('/api/backups')),
  putBackupSetting: (body: Schemas['BackupSettingIO']) =>
    told<Schemas['BackupsOut']>(client.PUT('/api/backups/setting', { body })),
  backUp: () => told<Schemas['ErrandOut']>(client.POST('/api/backups')),
  restore: (name: string) =>
    told<Schemas['ErrandOut']>(client.POST('/api/backups/restore', { body: { name } })),
  restoreFile: (file: File) => told<Schemas['ErrandOut']>(client.POST('/api/backups/file', formOf(file))),
  undoRestore: () => told<Schemas['UndoneOut']>(client.POST('/api/backups/undo')),
  errand: (errand_id: number) =>
    told<Schemas['ErrandOut']>(client.GET('/api/errands/{errand_id}', { params: { path: { errand_id } } })),
  stopErrand: (errand_id: number) =>
    told<Schemas['ErrandOut']>(
      client.DELETE('/api/errands/{errand_id}', { params: { path: { errand_id } } }),
    ),
  guide: () => told<Schemas['MarkGuide']>(client.GET('/api/mark-guide')),
  dog: (dog_id: number) => told<Dog>(client.GET('/api/dogs/{dog_id}', { params: { path: { dog_id } } })),
  addDog: (body: Schemas['NewDog']) => told<Dog>(client.POST('/api/dogs', { body })),
  addPhoto: (dog_id: number, file: File, view: View | 'guess', state: State | 'guess') =>
    told<Photo>(
      client.POST('/api/dogs/{dog_id}/photos', { ...named(dog_id), ...formOf(file, { view, state }) }),
    ),
  removePhoto: (photo_id: number) =>
    told<unknown>(client.DELETE('/api/photos/{photo_id}', { params: { path: { photo_id } } })),
  restorePhoto: (photo_id: number) =>
    told<Photo>(client.POST('/api/photos/{photo_id}/restore', { params: { path: { photo_id } } })),
  measure: (dog_id: number) =>
    told<Measured>(client.GET('/api/dogs/{dog_id}/measure', { params: { path: { dog_id } } })),
  next: (dog_id: number) =>
    told<Schemas['NextOut'][]>(client.GET('/api/dogs/{dog_id}/next', { params: { path: { dog_id } } })),
  head: (dog_id: number) =>
    told<Schemas['HeadDrawingOut'] | null>(
      client.GET('/api/dogs/{dog_id}/head', { params: { path: { dog_id } } }),
    ),
  newVisit: (dog_id: number) =>
    told<Dog>(client.POST('/api/dogs/{dog_id}/visits', { params: { path: { dog_id } } })),
  bands: () => told<Schemas['BandOut'][]>(client.GET('/api/bands')),
  putBands: (body: Schemas['BandsIn']) => told<Schemas['BandOut'][]>(client.PUT('/api/bands', { body })),
  movePhoto: (photo_id: number, view: View, state: State, spare: boolean, base: string | null) =>
    told<Photo>(
      client.PATCH('/api/photos/{photo_id}', {
        params: { path: { photo_id } },
        headers: ifMatch(base),
        body: { view, state, spare },
      }),
    ),
  edge: (photo_id: number) =>
    versioned<Schemas['EdgeIO']>(
      client.GET('/api/photos/{photo_id}/edge', { params: { path: { photo_id } } }),
    ),
  putEdge: (photo_id: number, line: Points, base: string | null) =>
    versioned<Schemas['EdgeIO']>(
      client.PUT('/api/photos/{photo_id}/edge', {
        params: { path: { photo_id } },
        headers: ifMatch(base),
        body: { line: line.map(([x, y]) => [x, y]) },
      }),
    ),
  brushEdge: (photo_id: number, stroke: Points, radius_px: number, add: boolean) =>
    versioned<Schemas['EdgeIO']>(
      client.POST('/api/photos/{photo_id}/edge/brush', {
        params: { path: { photo_id } },
        body: { stroke: stroke.map(([x, y]) => [x, y]), radius_px, add },
      }),
    ),
  lookAgain: (photo_id: number) =>
    told<unknown>(client.POST('/api/photos/{photo_id}/look', { params: { path: { photo_id } } })),
  stopLooking: (photo_id: number) =>
    told<unknown>(client.DELETE('/api/photos/{photo_id}/look', { params: { path: { photo_id } } })),
  guideFrame: (frame: Blob, view: View, signal?: AbortSignal) =>
    told<Guidance>(client.POST('/api/camera/guide', { ...formOf(frame, { view }, 'frame.jpg'), signal })),
  preview: (dog_id: number, body: Schemas['OutlineIn'], signal?: AbortSignal) =>
    told<Outline>(
      client.POST('/api/dogs/{dog_id}/outline/preview', { params: { path: { dog_id } }, body, signal }),
    ),
  kit: () => versioned<Schemas['KitIO']>(client.GET('/api/kit')),
  usualKit: () => told<Schemas['KitIO']>(client.GET('/api/kit/usual')),
  cutGuide: () => told<Schemas['CutGuide']>(client.GET('/api/cut-guide')),
  cut: (dog_id: number) =>
    told<Schemas['CutOut']>(client.GET('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } } })),
  startCut: (dog_id: number, again: boolean) =>
    told<Schemas['CutOut']>(
      client.POST('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } }, body: { again } }),
    ),
  putStep: (dog_id: number, step: string, body: Schemas['EntryIn'], base: string | null) =>
    told<unknown>(
      client.PUT('/api/dogs/{dog_id}/cut/steps/{step}', {
        params: { path: { dog_id, step } },
        headers: ifMatch(base),
        body,
      }),
    ),
  endCut: (dog_id: number, stopped_after: string | null) =>
    told<Schemas['CutOut']>(
      client.POST('/api/dogs/{dog_id}/cut/end', { params: { path: { dog_id } }, body: { stopped_after } }),
    ),
  takeUpCut: (dog_id: number) =>
    told<Schemas['CutOut']>(client.DELETE('/api/dogs/{dog_id}/cut/end', { params: { path: { dog_id } } })),
  choices: () => told<Schemas['ChoiceOut'][]>(client.GET('/api/outlines')),
  thumb: (dog_id: number, family: string, signal?: AbortSignal) =>
    told<Thumb>(
      client.GET('/api/dogs/{dog_id}/outlines/{family}', { params: { path: { dog_id, family } }, signal }),
    ),
  mesh: (dog_id: number) =>
    told<Mesh>(client.GET('/api/dogs/{dog_id}/mesh', { params: { path: { dog_id } } })),
  keepOwn: (body: Schemas['VariantIn']) =>
    told<Schemas['ChoiceOut']>(client.POST('/api/outlines/own', { body })),
  takeIn: (document: Record<string, unknown>) =>
    told<Schemas['ChoiceOut']>(client.POST('/api/outlines/own/file', { body: { document } })),
  ownFile: (variant_id: number) =>
    told<Record<string, unknown>>(
      client.GET('/api/outlines/own/{variant_id}/file', { params: { path: { variant_id } } }),
    ),
  removeOwn: (variant_id: number) =>
    told<unknown>(client.DELETE('/api/outlines/own/{variant_id}', { params: { path: { variant_id } } })),
}

export const screenUrl = (photo: Pick<Photo, 'picture'>) => `/api/pictures/${photo.picture}`
