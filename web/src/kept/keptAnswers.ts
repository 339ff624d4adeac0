/** What a tablet keeps of the salon's answers for when its server is away, and how a kept answer is told. */

export const KEPT_ANSWERS = 'salon-answers'
/** When a kept answer was given; only kept ones have it. */
export const KEPT_AT = 'x-kept-at'

/** Of dogs, the book, the kit. Not what is only true now, nor what a phone, practice or the salon's keeping asks. */
const KEPT = /^\/api\/(today|salon|entrance|kit|bands|outlines|mark-guide|cut-guide|dogs(\/|$)|pictures\/)/

export const isKept = (path: string) => KEPT.test(path)

/** The answer as it was, marked with when it was given. */
export function markedAsKept(answer: Response): Response {
  const headers = new Headers(answer.headers)
  headers.set(KEPT_AT, answer.headers.get('date') ?? 'earlier')
  return new Response(answer.body, { status: answer.status, statusText: answer.statusText, headers })
}

/** Nothing of the salon stays on a tablet that is kept out. */
export function forgetAnswers() {
  if ('caches' in globalThis) void caches.delete(KEPT_ANSWERS)
}
