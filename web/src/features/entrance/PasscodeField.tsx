import { Notice } from '../../ui/Notice'

/** The salon's passcode as it is typed, and why it was not taken. */
export function PasscodeField({
  code,
  wrong,
  onChange,
}: {
  code: string
  wrong: string
  onChange: (code: string) => void
}) {
  return (
    <>
      <label className="mb-4 block">
        <span className="mb-1 block font-semibold">Passcode</span>
        <input
          autoFocus
          type="password"
          autoComplete="current-password"
          value={code}
          maxLength={64}
          onChange={(event) => onChange(event.target.value)}
          className="h-14 w-full rounded-lg border border-rule bg-paper px-3 text-2xl tracking-widest"
        />
      </label>
      {wrong && <Notice tone="warn">{wrong}</Notice>}
    </>
  )
}
