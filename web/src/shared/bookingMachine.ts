import type { Schemas } from '../api/client'

type Booking = Schemas['BookingOut']
export type Form = Schemas['BookingIn']
export type Named = { readonly id: number; readonly name: string }
export type Booked =
  | { kind: 'new'; day: string; dog: Named | null }
  | { kind: 'change'; booking: Booking; dog: { name: string } }

/** A time being kept free, moved or cancelled: whose, and what the book is to say. */
export type BookingState = {
  readonly dog: Named | null
  readonly name: string
  readonly before: Booking | null
  readonly form: Form
}
export type BookingAction = { type: 'set'; change: Partial<Form> } | { type: 'dog'; dog: Named }

const USUAL_MIN = 90

export function beginBooking(booked: Booked): BookingState {
  const before = booked.kind === 'change' ? booked.booking : null
  return {
    dog: booked.kind === 'new' ? booked.dog : null,
    name: booked.dog?.name ?? '',
    before,
    form: {
      day: before?.day ?? (booked.kind === 'new' ? booked.day : ''),
      starts: before?.starts ?? '',
      minutes: before?.minutes ?? USUAL_MIN,
      words: before?.words ?? '',
    },
  }
}

export function bookingReducer(state: BookingState, action: BookingAction): BookingState {
  switch (action.type) {
    case 'set':
      return { ...state, form: { ...state.form, ...action.change } }
    case 'dog':
      return { ...state, dog: action.dog, name: action.dog.name }
  }
}

/** Enough is said to keep it. */
export const canKeep = ({ before, dog, form }: BookingState) => Boolean((before || dog) && form.day)
/** A time that nobody has begun a visit with. */
export const canCancel = ({ before }: BookingState) => Boolean(before && !before.visit_id)
