import { Component, type ReactNode } from 'react'
import { Button } from '../kit/button'
import { Subhead } from '../kit/heading'

type Props = { what: string; children: ReactNode }

/** Keeps what goes wrong in one part of the page inside that part: the rest, the cut above all, goes on. */
export class Boundary extends Component<Props, { failed: boolean }> {
  override state = { failed: false }

  static getDerivedStateFromError() {
    return { failed: true }
  }

  override render() {
    if (!this.state.failed) return this.props.children
    return (
      <section className="grid gap-1.5 rounded-md border-l-4 border-fix bg-fix-bg px-3 py-2" role="alert" aria-label={`${this.props.what} cannot be shown`}>
        <Subhead>{this.props.what} cannot be shown</Subhead>
        <p>Something went wrong while this part was drawn. What you kept is kept, and the rest of the page works.</p>
        <Button small onClick={() => this.setState({ failed: false })}>
          Draw it again
        </Button>
      </section>
    )
  }
}
