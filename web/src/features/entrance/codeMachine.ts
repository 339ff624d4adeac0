/** A passcode being typed: what was refused is emptied with its reason beside it. */
export type CodeState = { readonly open: boolean; readonly code: string; readonly wrong: string }

export type CodeAction =
  { type: 'ask' } | { type: 'close' } | { type: 'type'; code: string } | { type: 'refused'; reason: string }

export const noCode: CodeState = { open: false, code: '', wrong: '' }

export function codeReducer(state: CodeState, action: CodeAction): CodeState {
  switch (action.type) {
    case 'ask':
      return { open: true, code: '', wrong: '' }
    case 'close':
      return noCode
    case 'type':
      return { ...state, code: action.code }
    case 'refused':
      return { ...state, code: '', wrong: action.reason }
  }
}
