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
  ) {
    super(message)
  }
}

const AWAY = 'The salon’s server does not answer. Nothing is lost here: it is tried again by itself.'

/** The answer's data as T (the path's own answer type, with its tuples), or a Trouble with the server's own sentence. */
async function told<T>(call: Promise<{ data?: unknown; error?: unknown; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch {
    throw new Trouble(AWAY, true)
  }
  if (answer.response.ok) return answer.data as T
  const problem = answer.error as { message?: string } | undefined
  throw new Trouble(
    problem?.message ?? `The server answered ${answer.response.status}. Try again.`,
    answer.response.status >= 502,
  )
}

export const api = {
  today: () => told<Dog[]>(client.GET('/api/today')),
  guide: () => told<Schemas['MarkGuide']>(client.GET('/api/mark-guide')),
  dog: (dog_id: number) => told<Dog>(client.GET('/api/dogs/{dog_id}', { params: { path: { dog_id } } })),
  addDog: (body: Schemas['NewDog']) => told<Dog>(client.POST('/api/dogs', { body })),
  addPhoto: (dog_id: number, file: File, view: View | 'guess', state: State | 'guess') => {
    const form = new FormData()
    form.append('file', file)
    form.append('view', view)
    form.append('state', state)
    return told<Photo>(
      client.POST('/api/dogs/{dog_id}/photos', {
        params: { path: { dog_id } },
        body: form as never,
        bodySerializer: (body: unknown) => body as FormData,
      }),
    )
  },
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
  putKind: (dog_id: number, body: Schemas['HeadKindIn']) =>
    told<Dog>(client.PUT('/api/dogs/{dog_id}/kind', { params: { path: { dog_id } }, body })),
  newVisit: (dog_id: number) =>
    told<Dog>(client.POST('/api/dogs/{dog_id}/visits', { params: { path: { dog_id } } })),
  bands: () => told<Schemas['BandOut'][]>(client.GET('/api/bands')),
  putBands: (body: Schemas['BandsIn']) => told<Schemas['BandOut'][]>(client.PUT('/api/bands', { body })),
  putMarks: (photo_id: number, marks: Record<string, Mark>) =>
    told<Measured>(
      client.PUT('/api/photos/{photo_id}/marks', { params: { path: { photo_id } }, body: { marks } }),
    ),
  putHandMeasures: (dog_id: number, body: HandMeasure[]) =>
    told<Measured>(client.PUT('/api/dogs/{dog_id}/hand-measures', { params: { path: { dog_id } }, body })),
  putProbes: (dog_id: number, body: Probe[]) =>
    told<Dog>(client.PUT('/api/dogs/{dog_id}/coat-probes', { params: { path: { dog_id } }, body })),
  movePhoto: (photo_id: number, view: View, state: State, spare: boolean) =>
    told<Photo>(
      client.PATCH('/api/photos/{photo_id}', {
        params: { path: { photo_id } },
        body: { view, state, spare },
      }),
    ),
  edge: async (photo_id: number) =>
    (
      await told<Schemas['EdgeIO']>(
        client.GET('/api/photos/{photo_id}/edge', { params: { path: { photo_id } } }),
      )
    ).line,
  putEdge: async (photo_id: number, line: Points) =>
    (
      await told<Schemas['EdgeIO']>(
        client.PUT('/api/photos/{photo_id}/edge', {
          params: { path: { photo_id } },
          body: { line: line.map(([x, y]) => [x, y]) },
        }),
      )
    ).line,
  brushEdge: async (photo_id: number, stroke: Points, radius_px: number, add: boolean) =>
    (
      await told<Schemas['EdgeIO']>(
        client.POST('/api/photos/{photo_id}/edge/brush', {
          params: { path: { photo_id } },
          body: { stroke: stroke.map(([x, y]) => [x, y]), radius_px, add },
        }),
      )
    ).line,
  lookAgain: (photo_id: number) =>
    told<unknown>(client.POST('/api/photos/{photo_id}/look', { params: { path: { photo_id } } })),
  stopLooking: (photo_id: number) =>
    told<unknown>(client.DELETE('/api/photos/{photo_id}/look', { params: { path: { photo_id } } })),
  guideFrame: (frame: Blob, view: View, signal?: AbortSignal) => {
    const form = new FormData()
    form.append('file', frame, 'frame.jpg')
    form.append('view', view)
    return told<Guidance>(
      client.POST('/api/camera/guide', {
        body: form as never,
        bodySerializer: (body: unknown) => body as FormData,
        signal,
      }),
    )
  },
  preview: (dog_id: number, body: Schemas['OutlineIn'], signal?: AbortSignal) =>
    told<Outline>(
      client.POST('/api/dogs/{dog_id}/outline/preview', { params: { path: { dog_id } }, body, signal }),
    ),
  kit: () => told<Schemas['KitIO']>(client.GET('/api/kit')),
  usualKit: () => told<Schemas['KitIO']>(client.GET('/api/kit/usual')),
  putKit: (body: Schemas['KitIO']) => told<Schemas['KitIO']>(client.PUT('/api/kit', { body })),
  cutGuide: () => told<Schemas['CutGuide']>(client.GET('/api/cut-guide')),
  putTraits: (dog_id: number, traits: string[]) =>
    told<Dog>(client.PUT('/api/dogs/{dog_id}/traits', { params: { path: { dog_id } }, body: { traits } })),
  putStylist: (dog_id: number, name: string) =>
    told<Dog>(client.PUT('/api/dogs/{dog_id}/stylist', { params: { path: { dog_id } }, body: { name } })),
  cut: (dog_id: number) =>
    told<Schemas['CutOut']>(client.GET('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } } })),
  startCut: (dog_id: number, again: boolean) =>
    told<Schemas['CutOut']>(
      client.POST('/api/dogs/{dog_id}/cut', { params: { path: { dog_id } }, body: { again } }),
    ),
  putStep: (dog_id: number, step: string, body: Schemas['EntryIn']) =>
    told<unknown>(
      client.PUT('/api/dogs/{dog_id}/cut/steps/{step}', { params: { path: { dog_id, step } }, body }),
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
  putWishes: (dog_id: number, body: Wishes) =>
    told<Dog>(client.PUT('/api/dogs/{dog_id}/wishes', { params: { path: { dog_id } }, body })),
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
  saveOutline: (dog_id: number, body: Schemas['OutlineIn']) =>
    told<Schemas['SavedOutlineOut']>(
      client.PUT('/api/dogs/{dog_id}/outline', { params: { path: { dog_id } }, body }),
    ),
}

export const screenUrl = (photo: Pick<Photo, 'id'>) => `/api/photos/${photo.id}/screen`
