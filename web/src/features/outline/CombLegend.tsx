/** What the comb chart's marks stand for. */
export function CombLegend() {
  return (
    <p className="flex flex-wrap items-center gap-x-5 text-sm text-quiet">
      <b className="text-ink">Hair length, mm</b>
      <span>
        <i className="mr-1 inline-block h-1 w-5 bg-cut align-middle" />
        leave
      </span>
      <span>
        <i className="mr-1 inline-block h-3 w-3 bg-off align-middle opacity-80" />
        comes off
      </span>
      <span>
        <i className="mr-1 inline-block h-3 w-0.5 bg-coat align-middle" />
        coat now, 90 %
      </span>
      <span>
        <i className="mr-1 inline-block size-2 rounded-full bg-missing align-middle" />
        missing
      </span>
    </p>
  )
}
