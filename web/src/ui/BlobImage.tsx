import { useCallback } from 'react'

type Props = { blob: Blob; alt: string; className?: string }

/** A picture that was made on asking; its address lives as long as it is shown. */
export function BlobImage({ blob, alt, className }: Props) {
  const show = useCallback(
    (image: HTMLImageElement | null) => {
      if (!image) return
      const url = URL.createObjectURL(blob)
      image.src = url
      return () => URL.revokeObjectURL(url)
    },
    [blob],
  )
  return <img ref={show} alt={alt} className={className} />
}
