// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { useReducer, type ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, type Dog, type Schemas } from '../../src/api/client'
import { beginCut, cutReducer, type CutState, type Log, type Step } from '../../src/features/cut/cutMachine'
import { SheetList } from '../../src/features/cut/SheetList'
import { StopDialog } from '../../src/features/cut/StopDialog'
import { TableView } from '../../src/features/cut/TableView'

const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  number: 1,
  rule: id,
  chapter: 'Set in',
  doing: 'work',
  title: `Do ${id}`,
  how: '',
  side: null,
  zones: [],
  cuts: [],
  leave_mm: [12, 12],
  parts: [],
  comb_first: [],
  eye: '',
  tool: 'curved shears',
  tool_id: null,
  then_scissors: false,
  told: '',
  direction: '',
  hold: '',
  check: '',
  cautions: [],
  minutes: 2,
  usual_min: 2,
  minded: [],
  may_end: false,
  ends_with: '',
  sides_words: [],
  why: [{ of: 'rule', words: 'Because of the rule.' }],
  view: 'front',
  line: [],
  lengths: [],
  ...more,
})
const SQUARE = [
  [-50, -50],
  [50, -50],
  [50, 50],
  [-50, 50],
]
const head = { skin: SQUARE, coat: SQUARE, outline: SQUARE }
const sheetOf = (...steps: Step[]) =>
  ({
    steps: steps.map((one, i) => ({ ...one, number: i + 1 })),
    tools: ['curved shears'],
    heads: { front: head },
    patches: {},
    before_time: '',
    rests_on: '',
    left_alone: [],
    alone: [],
  }) as unknown as Schemas['SheetOut']
const dog = { id: 2, name: 'Bobbin', coat_probes: [], stylist: 'Oriel', from_last: [] } as unknown as Dog
const SHEET = sheetOf(
  step('look', { doing: 'look', chapter: 'Look', tool: '', eye: 'even from the front', leave_mm: null }),
  step('cheek:left', { side: 'left', comb_first: [], cautions: [] }),
  step('cheek:right', { side: 'right', may_end: true, ends_with: 'Left for next time: ears.' }),
)
const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
    {children}
  </QueryClientProvider>
)

describe('a step at the table', () => {
  const onList = vi.fn()
  const onEnd = vi.fn()
  beforeEach(() => {
    vi.spyOn(api, 'cutGuide').mockReturnValue(new Promise(() => undefined))
    vi.spyOn(api, 'hand').mockReturnValue(new Promise(() => undefined))
  })
  afterEach(() => {
    cleanup()
    vi.restoreAllMocks()
    onList.mockClear()
    onEnd.mockClear()
  })

  function Table({ sheet = SHEET, log = {} as Log, onRebuild = null as (() => void) | null }) {
    const [state, act] = useReducer(cutReducer, null, () => beginCut(sheet.steps, log, [], null))
    return (
      <TableView
        dog={dog}
        sheet={sheet}
        state={state}
        act={act}
        started={null}
        waiting={0}
        onRebuild={onRebuild}
        onList={onList}
        onEnd={onEnd}
      />
    )
  }
  const shown = () => screen.getByRole('heading', { level: 2 }).textContent
  const press = (key: string, more: object = {}) => fireEvent.keyDown(window, { key, ...more })

  it.each([' ', 'ArrowRight', 'PageDown'])('is done by the key %j and the next one shows', (key) => {
    render(<Table />, { wrapper })
    expect(shown()).toBe('Do look')
    press(key)
    expect(shown()).toBe('Do cheek:left')
    expect(screen.getByText('2 of 3')).toBeTruthy()
  })

  it('is looked at again by going back, and keeps its word', () => {
    render(<Table />, { wrapper })
    press(' ')
    press('ArrowLeft')
    expect(shown()).toBe('Do look')
    expect(screen.getByText('1 of 3, done')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'On' })).toBeTruthy()
  })

  it('says what this hand usually leaves, at its place alone, until it is asked not to', async () => {
    const words = 'Oriel leaves the left cheek 3 mm long (2 to 4, 9 heads)'
    const hand = {
      stylist: 'Oriel',
      told: true,
      notes: [{ zone: 'cheek', side: 'left' as const, mm: 3, words }],
    }
    vi.spyOn(api, 'hand').mockResolvedValue(hand)
    const tell = vi.spyOn(api, 'tellOfHand').mockResolvedValue(undefined)
    const cheek = step('cheek:left', {
      zones: ['cheek'],
      cuts: [{ zone: 'cheek', side: 'left' }] as Step['cuts'],
    })
    render(<Table sheet={sheetOf(step('look'), cheek)} />, { wrapper })
    expect(screen.queryByText(new RegExp('3 mm long'))).toBeNull()
    press(' ')
    expect(await screen.findByText(new RegExp('left cheek 3 mm long'))).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Do not tell me' }))
    expect(tell).toHaveBeenCalledWith({ stylist: 'Oriel', told: false })
  })

  it('is skipped, and taken back', () => {
    render(<Table />, { wrapper })
    press('s')
    press('PageUp')
    expect(screen.getByText('1 of 3, skipped')).toBeTruthy()
    press('z', { ctrlKey: true })
    expect(screen.getByText('1 of 3')).toBeTruthy()
  })

  it('tells why when asked, and no longer when asked again', () => {
    render(<Table />, { wrapper })
    press('w')
    expect(screen.getByText('Because of the rule.')).toBeTruthy()
    press('w')
    expect(screen.queryByText('Because of the rule.')).toBeNull()
  })

  it('leaves keys alone while something is typed or held down with Ctrl', () => {
    render(
      <>
        <Table />
        <input aria-label="elsewhere" />
      </>,
      { wrapper },
    )
    fireEvent.keyDown(screen.getByLabelText('elsewhere'), { key: ' ' })
    press('s', { ctrlKey: true })
    expect(shown()).toBe('Do look')
  })

  it('leads to the list', () => {
    render(<Table />, { wrapper })
    press('l')
    press('Escape')
    expect(onList).toHaveBeenCalledTimes(2)
  })

  it('ends once all is done', () => {
    render(<Table />, { wrapper })
    for (let i = 0; i < 3; i += 1) press(' ')
    fireEvent.click(screen.getByRole('button', { name: 'All done: end the cut' }))
    expect(onEnd).toHaveBeenCalledWith(null)
  })

  it('says that a sheet has grown old, and offers to rebuild the rest of it', () => {
    const rebuild = vi.fn()
    render(<Table onRebuild={rebuild} />, { wrapper })
    fireEvent.click(screen.getByRole('button', { name: 'Rebuild the rest' }))
    expect(rebuild).toHaveBeenCalledOnce()
  })

  it('says first that a plan is before its time', () => {
    const early = { ...SHEET, before_time: 'Full in 4–6 weeks; today without all of the jaw.' }
    render(<Table sheet={early} />, { wrapper })
    expect(screen.getByText('Full in 4–6 weeks; today without all of the jaw.')).toBeTruthy()
    press(' ')
    expect(screen.queryByText('Full in 4–6 weeks; today without all of the jaw.')).toBeNull()
    expect(screen.getByText('Full in 4–6 weeks')).toBeTruthy()
  })

  it('shows its number, or how it is judged where it has none', () => {
    render(<Table />, { wrapper })
    expect(screen.getByText('even from the front')).toBeTruthy()
    press(' ')
    expect(document.querySelector('[data-number]')?.textContent).toBe('12 mm')
  })
})

describe('stopping early', () => {
  const state = (log: Log, at: string): CutState => ({ ...beginCut(SHEET.steps, log, [], null), at })
  const done = { state: 'done', tool: '', notes: [] } as Log[string]
  const dialog = (now: CutState, onEnd = vi.fn()) => {
    render(<StopDialog open state={now} onClose={vi.fn()} onGo={vi.fn()} onEnd={onEnd} />)
    return onEnd
  }
  afterEach(cleanup)

  it('is safe where both sides are alike, and says what is left', () => {
    const onEnd = dialog(state({ look: done, 'cheek:left': done, 'cheek:right': done } as Log, 'cheek:right'))
    expect(screen.getByText('Stop here: both sides are alike')).toBeTruthy()
    expect(screen.getByText(/Left for next time: ears\./)).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Stop here' }))
    expect(onEnd).toHaveBeenCalledWith('cheek:right')
  })

  it('says how far it is to where it is safe, and does not forbid', () => {
    const onEnd = dialog(state({ look: done, 'cheek:left': done } as Log, 'cheek:right'))
    expect(screen.getByText('Not a good place to stop')).toBeTruthy()
    expect(
      screen.getByText(/After 1 more step, about 2 min, it may go home: “Do cheek:right”\./),
    ).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Stop all the same' }))
    expect(onEnd).toHaveBeenCalledWith('cheek:left')
  })

  it('has nothing to stop before anything is done', () => {
    dialog(state({}, 'look'))
    expect(screen.getByRole('button', { name: 'Stop all the same' }).hasAttribute('disabled')).toBe(true)
  })
})

describe('the sheet at a glance', () => {
  afterEach(cleanup)

  it('stands by chapter, with what is done struck out', () => {
    const log = { look: { state: 'done', tool: '', notes: [] } } as Log
    const onGo = vi.fn()
    render(<SheetList sheet={SHEET} log={log} at="cheek:left" onGo={onGo} />)
    expect(screen.getAllByRole('heading', { level: 3 }).map((one) => one.textContent)).toEqual([
      'Look',
      'Set in',
    ])
    expect(screen.getByText('Do look').className).toContain('line-through')
    expect(screen.getByText('Do cheek:left').className).not.toContain('line-through')
    const here = document.querySelector('[aria-current="step"]')
    expect(here?.getAttribute('data-row')).toBe('cheek:left')
    fireEvent.click(screen.getByText('Do cheek:right'))
    expect(onGo).toHaveBeenCalledWith('cheek:right')
  })

  it('keeps a step of another chapter where it is worked, with its chapter’s name', () => {
    const mixed = sheetOf(
      step('a', { chapter: 'Set in' }),
      step('b', { chapter: 'Eyes' }),
      step('c', { chapter: 'Set in' }),
    )
    render(<SheetList sheet={mixed} log={{}} at={null} />)
    const [, eyes] = screen.getAllByRole('list')
    expect(within(eyes as HTMLElement).getByText('Do c')).toBeTruthy()
    expect(within(eyes as HTMLElement).getByText('Set in: curved shears')).toBeTruthy()
  })
})
