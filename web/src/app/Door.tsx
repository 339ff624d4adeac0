import type { ReactNode } from 'react'
import { TrustScreen } from '../features/trust/TrustScreen'
import { useTrust } from '../features/trust/useTrust'

/** Over plain http from the network: how to trust the salon, then its https address. Everywhere else the salon. */
export function Door({ children }: { children: ReactNode }) {
  const trust = useTrust()
  if (trust.kind === 'asking') return null
  if (trust.kind === 'open') return children
  return <TrustScreen {...trust} />
}
