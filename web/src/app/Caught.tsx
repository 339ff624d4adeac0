import { Component, type ReactNode } from 'react'
import { Button } from '../ui/Button'

type Props = { children: ReactNode }
type State = { wrong: Error | null }

/** A fault of one screen is told on it; the others go on, and nothing that was kept is lost. */
export class Caught extends Component<Props, State> {
  override state: State = { wrong: null }

  static getDerivedStateFromError(wrong: Error): State {
    return { wrong }
  }

  override render() {
    if (!this.state.wrong) return this.props.children
    return (
      <main className="grid h-full place-items-center p-6" role="alert" data-caught>
        <div className="max-w-lg rounded-xl border border-rule bg-sheet p-6">
          <h1 className="mb-2 text-2xl font-bold">This screen could not be shown</h1>
          <p className="mb-4">
            What was entered is kept. Try it again; if it comes back, open the dog from Today.
          </p>
          <p className="mb-5 text-sm break-words text-quiet">{this.state.wrong.message}</p>
          <div className="flex gap-3">
            <Button look="firm" onClick={() => this.setState({ wrong: null })}>
              Try again
            </Button>
            <Button onClick={() => window.location.assign('/')}>Today</Button>
          </div>
        </div>
      </main>
    )
  }
}
