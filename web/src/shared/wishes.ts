import type { Wishes } from '../api/client'

/** Wishes without the owner's own words, which are changed elsewhere. */
export const plainWishes = ({
  fullness,
  eyes,
  beard,
  ears,
  weeks_between,
  lengths,
  body_mm,
  body_ends,
  as_body,
}: Wishes): Wishes => ({ fullness, eyes, beard, ears, weeks_between, lengths, body_mm, body_ends, as_body })
