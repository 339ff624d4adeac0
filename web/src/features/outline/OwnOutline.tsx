import { Download, Trash2, Upload } from 'lucide-react'
import { useRef, useState, type ChangeEvent } from 'react'
import type { Dog, Outline } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { saveAs } from '../../ui/saveAs'
import type { OutlineAction, Setting } from './outlineMachine'
import { useOwnOutlines } from './useOwnOutlines'

type Props = { dog: Dog; drawing: Outline; setting: Setting; act: (action: OutlineAction) => void }

/** Keep this setting as the salon’s own outline, or export and import one as a file. */
export function OwnOutline({ dog, drawing, setting, act }: Props) {
  const [name, setName] = useState('')
  const file = useRef<HTMLInputElement>(null)
  const { own, keep, importFile, remove, wrong, exported } = useOwnOutlines(dog, setting, act)
  async function exportFile() {
    const document = await exported()
    const content = new Blob([JSON.stringify(document, null, 1)], { type: 'application/json' })
    saveAs(content, `${drawing.name.toLowerCase()}.json`)
  }
  return (
    <section className="flex flex-col gap-2 border-t border-rule pt-2" aria-label="The salon’s own outlines">
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate({ name, drawing }, { onSuccess: () => setName('') })
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
            if (picked) importFile.mutate(picked)
            event.target.value = ''
          }}
        />
        <Button className="text-sm" onClick={() => file.current?.click()}>
          <Upload size={16} aria-hidden /> Import
        </Button>
        {own > 0 && (
          <>
            <Button className="text-sm" onClick={() => void exportFile()}>
              <Download size={16} aria-hidden /> Export
            </Button>
            <Button className="text-sm" onClick={() => remove.mutate()}>
              <Trash2 size={16} aria-hidden /> Remove
            </Button>
          </>
        )}
      </div>
      {wrong && <Notice tone="warn">{wrong.message}</Notice>}
    </section>
  )
}
