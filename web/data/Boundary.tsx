import { Component, type ReactNode } from 'react';

interface Props {
  readonly children: ReactNode;
  /** What could not be shown, for people. Default: the whole place. */
  readonly of?: string;
}
interface State {
  readonly broken: Error | null;
}

/** Keeps what breaks while it is drawn from taking the rest of the page with it, and says so. */
export class Boundary extends Component<Props, State> {
  override state: State = { broken: null };
  static getDerivedStateFromError(broken: Error): State {
    return { broken };
  }
  override render(): ReactNode {
    const { broken } = this.state;
    if (!broken) return this.props.children;
    return (
      <div role="alert" className="p-6 flex flex-col items-start gap-2">
        <p>
          {this.props.of ?? 'This place'} could not be shown ({broken.message}). What you did is
          kept.
        </p>
        <button className="word framed" onClick={() => this.setState({ broken: null })}>
          try again
        </button>
      </div>
    );
  }
}
