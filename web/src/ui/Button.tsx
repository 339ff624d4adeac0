import { Button as Base } from '@headlessui/react'
import type { ComponentProps } from 'react'

type Props = ComponentProps<'button'> & { look?: 'firm' | 'plain' }

const LOOKS = {
  firm: 'bg-cut text-sheet hover:opacity-90',
  plain: 'border border-rule bg-sheet text-ink hover:border-ink',
}

/** A touch target of 48 px. */
export function Button({ look = 'plain', className = '', ...rest }: Props) {
  return (
    <Base
      className={`inline-flex min-h-12 items-center justify-center gap-2 rounded-lg px-4 text-base font-semibold disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  )
}
