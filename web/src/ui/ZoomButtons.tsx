import { Maximize, ZoomIn, ZoomOut } from 'lucide-react'
import type { ReactNode } from 'react'

type Props = { near: number; step: number; zoom: (factor: number) => void; whole: () => void }

/** Closer, farther and the whole photo, in a corner of it; the last two only where it is looked at from near. */
export function ZoomButtons({ near, step, zoom, whole }: Props) {
  return (
    <div className="absolute top-2 right-2 flex flex-col gap-1">
      <PlaneButton label="Closer" onClick={() => zoom(step)}>
        <ZoomIn size={20} aria-hidden />
      </PlaneButton>
      {near > 1.01 && (
        <>
          <PlaneButton label="Farther" onClick={() => zoom(1 / step)}>
            <ZoomOut size={20} aria-hidden />
          </PlaneButton>
          <PlaneButton label="Whole photo" onClick={whole}>
            <Maximize size={20} aria-hidden />
          </PlaneButton>
        </>
      )}
    </div>
  )
}

function PlaneButton(props: { label: string; onClick: () => void; children: ReactNode }) {
  return (
    <button
      aria-label={props.label}
      onClick={props.onClick}
      className="grid size-12 place-items-center rounded-lg bg-[#10241f]/75 text-white hover:bg-[#10241f]"
    >
      {props.children}
    </button>
  )
}
