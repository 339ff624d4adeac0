import type { ReactNode } from 'react'
import { here } from './useTrust'
import { TrustSketch } from './TrustSketch'

const DOES = 'mt-auto inline-flex min-h-14 items-center justify-center rounded-lg px-4 text-lg font-semibold'

/** Three pictures: a tablet comes to trust the salon's own certificate, once. */
export function TrustScreen({ secure, fingerprint }: { secure: string; fingerprint: string }) {
  return (
    <main className="graph h-full overflow-auto p-5">
      <div className="mx-auto max-w-5xl">
        <h1 className="text-3xl font-bold tracking-tight">Let this tablet trust the salon</h1>
        <p className="mb-5 max-w-3xl text-lg text-quiet">
          Once for each tablet. After that it has the camera, and keeps the sheet in use when the salon’s
          machine is away. This page goes on by itself as soon as the salon is trusted.
        </p>
        <ol className="grid gap-4 md:grid-cols-3">
          <Step number={1} words="Take the certificate">
            <TrustSketch step="take" />
            <p className="text-quiet">
              Where the tablet asks, allow it. It goes to the downloads or to the settings.
            </p>
            <a href="/api/trust/authority.crt" className={`${DOES} bg-cut text-sheet`}>
              Take it
            </a>
          </Step>
          <Step number={2} words="Trust it in the settings">
            <TrustSketch step="trust" />
            <p className="text-quiet">
              In the tablet’s settings search for <b>certificate</b>: install the one named{' '}
              <b>Dapwick salon</b> as an authority, and switch on full trust where there is such a switch.
            </p>
          </Step>
          <Step number={3} words="Open the salon">
            <TrustSketch step="open" />
            <p className="text-quiet">
              The lock is closed and no warning comes. Then give the salon’s passcode.
            </p>
            <a href={here(secure)} className={`${DOES} border-2 border-ink bg-tape text-[#17352f]`}>
              Open {secure.replace('https://', '')}
            </a>
          </Step>
        </ol>
        <p className="mt-5 text-quiet">
          Is it ours? The salon’s machine shows the same numbers under Salon › Tablets:
          <span className="mt-1 block max-w-2xl tracking-wide break-words text-ink" data-fingerprint>
            {fingerprint}
          </span>
        </p>
      </div>
    </main>
  )
}

function Step({ number, words, children }: { number: number; words: string; children: ReactNode }) {
  return (
    <li className="flex flex-col gap-3 rounded-xl border border-rule bg-sheet p-5">
      <h2 className="flex gap-3 text-xl leading-tight font-bold">
        <span className="grid size-8 shrink-0 place-items-center rounded-full bg-tape text-[#17352f]">
          {number}
        </span>
        {words}
      </h2>
      {children}
    </li>
  )
}
