/** Keeps an error of one part of a page from taking the page: the part says so, and the rest goes on. */
import { Component, type ReactNode } from 'react';

interface Props {
  children: ReactNode;
  /** What stands in place of what failed. */
  fallback: (error: unknown, again: () => void) => ReactNode;
  /** Another value: what failed is tried anew. */
  of?: unknown;
}
interface State {
  failed: { error: unknown } | null;
  of: unknown;
}

export class Boundary extends Component<Props, State> {
  override state: State = { failed: null, of: this.props.of };
  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { failed: { error } };
  }
  static getDerivedStateFromProps(props: Props, state: State): Partial<State> | null {
    return props.of === state.of ? null : { failed: null, of: props.of };
  }
  override render(): ReactNode {
    const { failed } = this.state;
    return failed ? this.props.fallback(failed.error, () => this.setState({ failed: null })) : this.props.children;
  }
}
