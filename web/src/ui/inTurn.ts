/** At most `most` pieces of work at once, in the order they were asked for; what is no longer wanted is skipped. */
export function inTurn(most: number) {
  const waiting: (() => void)[] = []
  let running = 0
  function next() {
    if (running >= most) return
    const start = waiting.shift()
    if (!start) return
    running += 1
    start()
  }
  return <T>(work: () => Promise<T>, signal?: AbortSignal): Promise<T> =>
    new Promise<T>((done, failed) => {
      waiting.push(() => {
        const job = signal?.aborted ? Promise.reject(signal.reason as Error) : work()
        void job.then(done, failed).finally(() => {
          running -= 1
          next()
        })
      })
      next()
    })
}
