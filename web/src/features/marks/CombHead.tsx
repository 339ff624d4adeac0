import type { Dog } from '../../api/client'
import { HeadView } from '../../shared/HeadView'
import { useDogHead } from '../../shared/queries'
import { zoneWords } from '../../shared/words'

type Props = {
  dog: Dog
  zones: readonly string[]
  chosen: string | null
  onChoose: (zone: string) => void
}

/** The measured head, small, seen from its left: press where the comb goes in. */
export function CombHead({ dog, zones, chosen, onChoose }: Props) {
  const head = useDogHead(dog.id)
  const side = head.data?.views['left']
  if (!side) return null
  const depth = new Map(dog.coat_probes.map((p) => [p.zone, p.depth_mm]))
  return (
    <HeadView
      view={side}
      name="left"
      carriage={head.data?.carriage ?? {}}
      className="mx-auto h-56 overflow-visible"
    >
      {zones.map((zone) => {
        const at = side.combs[zone]
        if (!at) return null
        const read = depth.get(zone)
        return (
          <g
            key={zone}
            role="button"
            tabIndex={0}
            aria-label={`Comb at the ${zoneWords(zone)}${read === undefined ? '' : `, ${read} mm`}`}
            aria-pressed={zone === chosen}
            data-comb={zone}
            transform={`translate(${at[0]} ${at[1]})`}
            className="cursor-pointer outline-offset-2"
            onClick={() => onChoose(zone)}
            onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && onChoose(zone)}
          >
            <circle r="11" fill="transparent" />
            <circle
              r={zone === chosen ? 8 : 6.5}
              fill={read === undefined ? 'var(--color-sheet)' : 'var(--color-coat)'}
              stroke={zone === chosen ? 'var(--color-cut)' : 'var(--color-ink)'}
              strokeWidth={zone === chosen ? 3 : 1.4}
            />
            {read !== undefined && (
              <text y="3.2" textAnchor="middle" fontSize="9" fontWeight="700" fill="var(--color-sheet)">
                {Math.round(read)}
              </text>
            )}
          </g>
        )
      })}
    </HeadView>
  )
}
