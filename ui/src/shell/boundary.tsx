import { Component, type ReactNode } from 'react'

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
      <section className="failed" role="alert" aria-label={`${this.props.what} cannot be shown`}>
        <h2 className="small">{this.props.what} cannot be shown</h2>
        <p>Something went wrong while this part was drawn. What you kept is kept, and the rest of the page works.</p>
        <button type="button" className="btn small" onClick={() => this.setState({ failed: false })}>
          Draw it again
        </button>
      </section>
    )
  }
}
