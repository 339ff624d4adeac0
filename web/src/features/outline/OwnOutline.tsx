import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Download, Trash2, Upload } from 'lucide-react'
import { useRef, useState, type ChangeEvent } from 'react'
import { api, type Dog, type Outline, type Trouble } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import type { OutlineAction, Setting } from './outlineMachine'

type Props = { dog: Dog; drawing: Outline; setting: Setting; act: (action: OutlineAction) => void }

const OWN = /^own-(\d+)$/

/** Keep this setting as the salon's own outline, or carry one in or out as a file. */
export function OwnOutline({ dog, drawing, setting, act }: Props) {
  const [name, setName] = useState('')
  const file = useRef<HTMLInputElement>(null)
  const queries = useQueryClient()
  const own = Number(OWN.exec(setting.family)?.[1] ?? 0)
  const refresh = () => queries.invalidateQueries({ queryKey: ['choices'] })
  const keep = useMutation({
    mutationFn: () =>
      api.keepOwn({
        name,
        family: setting.family,
        params: Object.fromEntries(drawing.parameters.map((p) => [p.id, p.value])),
        schools: Object.fromEntries(drawing.schools.map((s) => [s.id, s.chosen])),
      }),
    onSuccess: async (kept) => {
      setName('')
      await refresh()
      act({ type: 'family', family: kept.key })
    },
  })
  const takeIn = useMutation({
    mutationFn: async (picked: File) => {
      let document: unknown
      try {
        document = JSON.parse(await picked.text())
      } catch {
        throw new Error(
          `${picked.name} is not an outline’s file. Choose one that was carried out of a salon.`,
        )
      }
      return api.takeIn(document as Record<string, unknown>)
    },
    onSuccess: refresh,
  })
  const remove = useMutation({
    mutationFn: () => api.removeOwn(own),
    onSuccess: async () => {
      act({ type: 'family', family: 'round' })
      await refresh()
      queries.removeQueries({ queryKey: ['thumb', dog.id, setting.family] })
    },
  })
  async function carryOut() {
    const document = await api.ownFile(own)
    const link = globalThis.document.createElement('a')
    link.href = URL.createObjectURL(
      new Blob([JSON.stringify(document, null, 1)], { type: 'application/json' }),
    )
    link.download = `${drawing.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.json`
    link.click()
    URL.revokeObjectURL(link.href)
  }
  const trouble = (keep.error ?? takeIn.error ?? remove.error) as Trouble | Error | null
  return (
    <section className="flex flex-col gap-2 border-t border-rule pt-2" aria-label="The salon’s own outlines">
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate()
        }}
      >
        <input
          value={name}
          onChange={(event) => setName(event.target.value)}
          placeholder="Name it as your own"
          aria-label="Name of your own outline"
          className="min-h-12 min-w-0 flex-1 rounded-lg border border-rule bg-sheet px-3"
        />
        <Button type="submit" disabled={!name.trim() || keep.isPending}>
          Save
        </Button>
      </form>
      <div className="flex flex-wrap gap-2 text-sm">
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          className="sr-only"
          aria-label="An outline’s file"
          tabIndex={-1}
          onChange={(event: ChangeEvent<HTMLInputElement>) => {
            const picked = event.target.files?.[0]
            if (picked) takeIn.mutate(picked)
            event.target.value = ''
          }}
        />
        <Button className="text-sm" onClick={() => file.current?.click()}>
          <Upload size={16} aria-hidden /> Take one in
        </Button>
        {own > 0 && (
          <>
            <Button className="text-sm" onClick={() => void carryOut()}>
              <Download size={16} aria-hidden /> Carry out
            </Button>
            <Button className="text-sm" onClick={() => remove.mutate()}>
              <Trash2 size={16} aria-hidden /> Remove
            </Button>
          </>
        )}
      </div>
      {trouble && <Notice tone="warn">{trouble.message}</Notice>}
    </section>
  )
}
