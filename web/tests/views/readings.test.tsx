// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Dog, Measured, Outline, Photo, Zone } from '../../src/api/client'
import type { Step } from '../../src/features/cut/cutMachine'
import { HandField, type Entry } from '../../src/features/marks/HandField'
import { CombChart } from '../../src/features/outline/CombChart'
import { WordSlider } from '../../src/features/outline/WordSlider'
import { Looked, withoutSlot } from '../../src/features/photos/Looked'
import { MeasureTable } from '../../src/shared/MeasureTable'

afterEach(cleanup)

/** What a view would keep, told instead of sent. */
function outboxAside() {
  const put = vi.fn()
  beforeEach(() => {
    put.mockClear()
    vi.resetModules()
    vi.doMock('../../src/outbox/useOutbox', () => ({ change: put, useWished: () => undefined }))
  })
  afterEach(() => vi.doUnmock('../../src/outbox/useOutbox'))
  return put
}

describe('readings by hand', () => {
  const choices = ['width', 'length', 'muzzle'].map((id) => ({ id, words: id }))
  let answer: { kept: () => void; refused: (why: Error) => void }[]
  const added: [string, number][] = []
  beforeEach(() => {
    answer = []
    added.length = 0
  })

  function Desk() {
    const [entries, setEntries] = useState<Entry[]>([])
    const [chosen, setChosen] = useState<string | null>(null)
    return (
      <HandField
        title="Measured by hand, mm"
        entries={entries}
        choices={choices}
        chosen={chosen}
        onChoose={setChosen}
        onAdd={(id, mm) =>
          new Promise((kept, refused) => {
            added.push([id, mm])
            answer.push({
              kept: () => {
                setEntries((some) => [...some, { id, words: id, mm }])
                kept()
              },
              refused,
            })
          })
        }
        onRemove={async (id) => setEntries((some) => some.filter((one) => one.id !== id))}
      />
    )
  }
  const field = () => screen.getByRole<HTMLInputElement>('textbox')
  const type = (text: string) => {
    fireEvent.change(field(), { target: { value: text } })
    fireEvent.submit(field().closest('form') as HTMLFormElement)
  }
  const readings = () =>
    [...document.querySelectorAll('[data-reading]')].map((one) => one.getAttribute('data-reading'))

  it('may be typed faster than they are kept, and none is lost', async () => {
    render(<Desk />)
    type('61')
    type('92,5')
    type('48 mm')
    expect(added).toEqual([
      ['width', 61],
      ['length', 92.5],
      ['muzzle', 48],
    ])
    expect(readings()).toEqual(['width', 'length', 'muzzle'])
    expect(screen.getAllByText('saving…')).toHaveLength(3)
    await act(async () => answer.forEach((one) => one.kept()))
    expect(screen.queryByText('saving…')).toBeNull()
    expect(readings()).toEqual(['width', 'length', 'muzzle'])
  })

  it('come back to be typed again where one is refused', async () => {
    render(<Desk />)
    type('999')
    await act(async () => answer[0]?.refused(new Error('Check the unit: the field is in millimetres.')))
    expect(field().value).toBe('999')
    expect(readings()).toEqual([])
    expect(screen.getByText('Check the unit: the field is in millimetres.')).toBeTruthy()
  })

  it('are numbers', () => {
    render(<Desk />)
    type('wide')
    expect(screen.getByText(/“wide” is not one/)).toBeTruthy()
    type('')
    expect(added).toEqual([])
  })

  it('are removed one by one', async () => {
    render(<Desk />)
    type('61')
    await act(async () => answer[0]?.kept())
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'Remove width' })))
    expect(readings()).toEqual([])
  })
})

describe('a comb before a step', () => {
  const put = outboxAside()

  it('is kept beside the other depths, and takes the place of an earlier one', async () => {
    const { CombFirst } = await import('../../src/features/cut/CombFirst')
    const jaw = { zone: 'jaw', side: 'left', depth_mm: 14 }
    const crown = { zone: 'crown', side: null, depth_mm: 20 }
    const dog = { id: 2, coat_probes: [jaw, crown] } as unknown as Dog
    const step = {
      comb_first: [{ zone: 'jaw', side: 'left', words: 'left jaw', asks_mm: 18.4, sure_mm: 11.6 }],
    } as unknown as Step
    render(<CombFirst dog={dog} step={step} />)
    expect(screen.getByText(/18 mm asked, 12 surely there/)).toBeTruthy()
    const field = screen.getByLabelText('Comb depth, left jaw, mm')
    fireEvent.change(field, { target: { value: '16,5' } })
    fireEvent.click(screen.getByRole('button', { name: 'Save' }))
    expect(put).toHaveBeenCalledWith(dog, 'coat-probes', [
      crown,
      { zone: 'jaw', side: 'left', depth_mm: 16.5 },
    ])
  })

  it('is not asked for where nothing is unsure', async () => {
    const { CombFirst } = await import('../../src/features/cut/CombFirst')
    const { container } = render(<CombFirst dog={{} as Dog} step={{ comb_first: [] } as unknown as Step} />)
    expect(container.innerHTML).toBe('')
  })
})

describe('a verdict that rests on a coat nothing has read', () => {
  const put = outboxAside()
  const dog = { id: 2, coat_probes: [] } as unknown as Dog
  const told = (comb_first: string[]) =>
    ({ verdict: 'today', weeks: 0, weeks_low: 0, weeks_high: 0, comb_first }) as unknown as Outline

  it('asks for the comb by one press, both sides at once', async () => {
    const { CombNow } = await import('../../src/features/outline/CombNow')
    render(<CombNow dog={dog} drawing={told(['back_skull', 'crown'])} />)
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'comb first' })))
    const field = screen.getByLabelText('Comb depth, back skull, mm')
    expect(screen.getByLabelText('Comb depth, crown, mm')).toBeTruthy()
    fireEvent.change(field, { target: { value: '23' } })
    for (const save of screen.getAllByRole('button', { name: 'Save' })) fireEvent.click(save)
    expect(put).toHaveBeenCalledWith(dog, 'coat-probes', [{ zone: 'back_skull', side: null, depth_mm: 23 }])
  })

  it('is plain words where the coat is seen', async () => {
    const { CombNow } = await import('../../src/features/outline/CombNow')
    const { container } = render(<CombNow dog={dog} drawing={told([])} />)
    expect(container.textContent).toBe('today')
    expect(screen.queryByRole('button')).toBeNull()
  })
})

describe('measures', () => {
  const measure = (id: string, unit: string, value: number, half: number) => ({
    id,
    words: id,
    unit,
    value,
    low: value - half,
    high: value + half,
  })
  const measured = (more: object = {}) =>
    ({
      measures: [measure('skull width', 'mm', 91.4, 2), measure('stop angle', 'deg', 118, 5)],
      proportions: [{ measure: 'a', words: 'short muzzle', sure: true }],
      uneven: [],
      ...more,
    }) as unknown as Measured

  it('stand with how far off they may be', () => {
    render(<MeasureTable measured={measured()} />)
    expect(document.querySelector('[data-measure="skull width"]')?.textContent).toBe('skull width91±2')
    expect(document.querySelector('[data-measure="stop angle"]')?.textContent).toBe('stop angle118°±5°')
    expect(screen.getByText('short muzzle')).toBeTruthy()
  })

  it('say what is uneven', () => {
    render(<MeasureTable measured={measured({ uneven: [{ words: 'left cheek 4 mm farther out' }] })} />)
    expect(screen.getByText('Uneven: left cheek 4 mm farther out.')).toBeTruthy()
  })

  it('say how to get them where there are none', () => {
    render(<MeasureTable measured={{ measures: [] } as unknown as Measured} />)
    expect(screen.getByText(/once four marks are placed/)).toBeTruthy()
  })

  it('say that they are worked out while they are', () => {
    render(<MeasureTable />)
    expect(screen.getByText(/Working it out/)).toBeTruthy()
  })
})

describe('the comb of lengths', () => {
  const zone = (zone: string, side: string, leave_mm: number, more: object = {}) =>
    ({
      zone,
      side,
      leave_mm,
      low: leave_mm - 2,
      high: leave_mm + 2,
      now_mm: 30,
      now_low: 27,
      now_high: 33,
      remove_mm: 30 - leave_mm,
      shortage_mm: 0,
      tool: 'scissored',
      ...more,
    }) as unknown as Zone
  const zones = [
    zone('crown', 'left', 20),
    zone('crown', 'right', 21.4),
    zone('stop', 'left', 0.5),
    zone('jaw', 'left', 34, { shortage_mm: 9, remove_mm: 0 }),
    zone('jaw', 'right', 30, { remove_mm: 0 }),
  ]

  it('has a tooth for each zone and side, but for those that are only cleared', () => {
    render(<CombChart zones={zones} />)
    const teeth = [...document.querySelectorAll('[data-tooth]')]
    expect(teeth.map((one) => one.getAttribute('data-tooth'))).toEqual([
      'crown-left',
      'crown-right',
      'jaw-left',
      'jaw-right',
    ])
    expect(teeth[1]?.textContent).toBe('21R')
  })

  it('shows hair that is missing as dots, and none where nothing is', () => {
    render(<CombChart zones={zones} />)
    const dots = (tooth: string) => document.querySelectorAll(`[data-tooth="${tooth}"] circle`).length
    expect([dots('jaw-left'), dots('jaw-right'), dots('crown-left')]).toEqual([3, 0, 0])
  })

  it('tells every zone to those who hear it', () => {
    render(<CombChart zones={zones} />)
    const rows = [...document.querySelectorAll('tbody tr')].map((row) => row.textContent)
    expect(rows).toHaveLength(zones.length)
    expect(rows[3]).toBe('jawleft34.02.00.09.0scissored')
  })
})

describe('a slider', () => {
  it('moves while it is held and rests when it is let go', () => {
    const act = vi.fn()
    const parameter = {
      id: 'crown_mm',
      words: 'Crown',
      low: 10,
      high: 40,
      value: 20,
      words_low: 'lower',
      words_high: 'higher',
    } as never
    render(<WordSlider parameter={parameter} ends={['12 mm', '38 mm']} act={act} />)
    const slider = screen.getByRole<HTMLInputElement>('slider')
    expect(slider.value).toBe('20')
    fireEvent.change(slider, { target: { value: '25' } })
    fireEvent.pointerUp(slider)
    expect(act.mock.calls.map(([action]) => action as unknown)).toEqual([
      { type: 'set', id: 'crown_mm', value: 25 },
      { type: 'rest' },
    ])
    expect(screen.getByText('12 mm')).toBeTruthy()
  })
})

describe('what the machine makes of a photo', () => {
  const photo = (more: object) =>
    ({
      id: 3,
      job: null,
      looked: {},
      findings: [],
      has_edge: true,
      edge_by_hand: false,
      card_markers: 0,
      ...more,
    }) as unknown as Photo

  it('is told as it goes and can be stopped', () => {
    const stop = vi.fn()
    render(
      <Looked
        photo={photo({ job: { kind: 'working', words: 'following the coat’s edge', share: 0.42 } })}
        onStop={stop}
        onMove={vi.fn()}
      />,
    )
    expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('42')
    fireEvent.click(screen.getByRole('button', { name: 'Stop checking this photo' }))
    expect(stop).toHaveBeenCalledOnce()
  })

  it('is usable, or says what is wrong', () => {
    render(<Looked photo={photo({})} onStop={vi.fn()} onMove={vi.fn()} />)
    expect(screen.getByText('Usable')).toBeTruthy()
    cleanup()
    const blurred = { code: 'blurred', message: 'dry front: blurred at the eyes.' }
    render(
      <Looked photo={photo({ findings: [blurred], edge_by_hand: true })} onStop={vi.fn()} onMove={vi.fn()} />,
    )
    expect(screen.queryByText('Usable')).toBeNull()
    expect(screen.getByText('Blurred at the eyes.')).toBeTruthy()
    expect(screen.getByText('Edge drawn by hand')).toBeTruthy()
  })

  it('moves to the slot it belongs in by one press', () => {
    const move = vi.fn()
    const wrong = {
      code: 'wrong_view',
      message: 'front, dry: this looks like a photo from the left.',
      view: 'left',
    }
    const here = photo({ state: 'dry', findings: [wrong] })
    render(<Looked photo={here} onStop={vi.fn()} onMove={move} />)
    fireEvent.click(screen.getByRole('button', { name: 'Move to the dog’s left side' }))
    expect(move).toHaveBeenCalledWith(here, 'left', 'dry')
  })

  it('says nothing of a photo that was not looked at', () => {
    const { container } = render(<Looked photo={photo({ looked: null })} onStop={vi.fn()} onMove={vi.fn()} />)
    expect(container.innerHTML).toBe('')
    expect(withoutSlot('wet left: too dark.')).toBe('Too dark.')
  })
})
