/** Codes as words: what is kept as `two_cuts` is said as "two cuts". */
const said = (code: string) => code.replaceAll('_', ' ')

/** What a stylist calls a zone, a view, a family's kept name, a school's choice or a note. */
export const zoneWords = said
export const viewWords = said
export const familyWords = said
export const choiceWords = said
export const noteWords = said
