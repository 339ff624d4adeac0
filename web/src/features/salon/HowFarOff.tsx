import { Download } from 'lucide-react'
import { Link } from 'react-router'
import { Tape } from '../../app/Tape'
import type { Schemas } from '../../api/client'
import { shortDay } from '../../shared/days'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { useFactor, useHowFarOff } from './useHowFarOff'
import { Scroller } from '../../ui/Scroller'

type Off = Schemas['HowFarOffOut']
type Tally = Off['tallies'][number]

/** Is the tool right? What it expected before each reading, against what was found, over this salon's own dogs. */
export function HowFarOff() {
  const off = useHowFarOff()
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      <Scroller role="main" outer="flex-1" className="p-5">
        <div className="mx-auto flex max-w-6xl flex-col gap-4">
          <div className="flex flex-wrap items-center gap-3">
            <Link to="/salon" className="underline">
              Salon
            </Link>
            <h1 className="text-3xl font-bold tracking-tight">How far off</h1>
            <a
              href="/api/salon/how-far-off.csv"
              download
              className="ml-auto inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink"
            >
              <Download size={18} aria-hidden /> As a table
            </a>
          </div>
          <p className="max-w-3xl text-lg">
            Before you read a calliper or a comb, Dapwick writes down what it expects and how sure it is. Here
            is how often it was right, on your own dogs. Nobody can write here by hand.
          </p>
          {off.failureReason && !off.data && <Notice tone="warn">{off.failureReason.message}</Notice>}
          {off.data?.demo && (
            <Notice>These are the demo dogs. Your own are counted as soon as you read one.</Notice>
          )}
          {off.data && <Kinds off={off.data} />}
          {off.data && off.data.latest.length > 0 && <Latest off={off.data} />}
        </div>
      </Scroller>
    </div>
  )
}

function Kinds({ off }: { off: Off }) {
  if (!off.tallies.length)
    return <Notice>Nothing was read yet. Put a calliper or a comb to a dog that has photos.</Notice>
  return (
    <ul className="grid grid-cols-2 gap-3 portrait:grid-cols-1" aria-label="By kind of reading">
      {off.tallies.map((tally) => (
        <Kind key={tally.kind} tally={tally} factor={off.factors[tally.kind]} />
      ))}
    </ul>
  )
}

function Kind({ tally, factor }: { tally: Tally; factor: number | undefined }) {
  const set = useFactor()
  return (
    <li data-kind={tally.kind} className="flex flex-col gap-2 rounded-xl border border-rule bg-sheet p-4">
      <div className="flex items-baseline gap-3">
        <h2 className="min-w-0 flex-1 text-xl font-bold">{tally.words}</h2>
        <b className="text-3xl tabular-nums">
          {tally.inside} of {tally.readings}
        </b>
      </div>
      <Share tally={tally} />
      <p>
        {tally.says}
        {tally.taken_back > 0 && ` ${tally.taken_back} taken back.`}
      </p>
      <p className="text-quiet">
        {tally.unit.startsWith('log')
          ? `In the middle ${percent(tally.bias)}.`
          : `In the middle off by ${signed(tally.bias)} ${tally.unit}.`}{' '}
        {tally.readings} readings from {tally.visits} {tally.visits === 1 ? 'visit' : 'visits'}. They stray{' '}
        {tally.wider.toFixed(1)} times as far as told ({tally.wider_low.toFixed(1)} to{' '}
        {Math.min(tally.wider_high, 9.9).toFixed(1)}).
      </p>
      {set.error && <Notice tone="warn">{set.error.message}</Notice>}
      {factor !== undefined && (
        <p className="flex flex-wrap items-center gap-3 font-semibold" data-factor={factor}>
          Told {factor} times wider in this salon.
          <Button disabled={set.isPending} onClick={() => set.mutate({ kind: tally.kind, factor: 1 })}>
            Take that back
          </Button>
        </p>
      )}
      {tally.offer !== null && (
        <Button
          look="firm"
          className="self-start"
          disabled={set.isPending}
          onClick={() => set.mutate({ kind: tally.kind, factor: tally.offer ?? 1 })}
        >
          Tell it {tally.offer} times wider from now on
        </Button>
      )}
    </li>
  )
}

/** The share inside as a piece of tape, its interval, and what was promised. */
function Share({ tally }: { tally: Tally }) {
  const x = (share: number) => 6 + share * 388
  return (
    <svg
      viewBox="0 0 400 30"
      className="w-full max-w-xl"
      role="img"
      aria-label={`between ${Math.round(tally.low * 100)} and ${Math.round(tally.high * 100)} in a hundred`}
    >
      <line x1={x(0)} x2={x(1)} y1={20} y2={20} className="stroke-rule" strokeWidth={2} />
      {Array.from({ length: 11 }, (_, i) => (
        <line key={i} x1={x(i / 10)} x2={x(i / 10)} y1={i % 5 ? 16 : 12} y2={20} className="stroke-quiet" />
      ))}
      <line
        x1={x(tally.low)}
        x2={x(tally.high)}
        y1={20}
        y2={20}
        className="stroke-cut"
        strokeWidth={8}
        strokeOpacity={0.4}
        strokeLinecap="round"
      />
      <circle cx={x(tally.share)} cy={20} r={6} className="fill-cut" />
      <path d={`M${x(0.95)} 14 l-5 -9 h10 z`} className="fill-brass" />
    </svg>
  )
}

function Latest({ off }: { off: Off }) {
  return (
    <details className="rounded-xl border border-rule bg-sheet p-4" open>
      <summary className="min-h-10 cursor-pointer text-xl font-bold">The latest readings</summary>
      <table className="w-full text-left">
        <thead>
          <tr>
            {['day', 'dog', 'what', 'expected', 'found', ''].map((head) => (
              <th key={head} className={['expected', 'found'].includes(head) ? 'text-right' : ''}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {off.latest.map((one, i) => (
            <tr key={i} className="border-t border-rule" data-reading={one.kind} data-inside={one.inside}>
              <td>{shortDay(one.day)}</td>
              <td>{one.dog}</td>
              <td>{one.what.replaceAll('_', ' ')}</td>
              <td className="text-right tabular-nums">
                {one.expected}{' '}
                <span className="text-quiet">
                  ({one.low} to {one.high})
                </span>
              </td>
              <td className="text-right font-semibold tabular-nums">
                {one.found} {one.unit}
              </td>
              <td className={`pl-3 ${one.inside ? 'text-quiet' : 'font-semibold text-warn'}`}>
                {one.counts ? (one.inside ? 'inside' : 'outside') : 'taken back'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}

const signed = (mm: number) => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${Math.abs(mm).toFixed(1)}`
const percent = (log: number) => {
  const share = Math.round(100 * (Math.exp(log) - 1))
  return share === 0 ? 'as expected' : `${Math.abs(share)} % ${share > 0 ? 'longer' : 'shorter'}`
}
