import { Component, type ReactNode } from "react";
import { Problem } from "./Problem";

/** Keeps a drawing that fails from taking its page along; a change of what it shows lets it try again. */
interface Props {
  /** What it is about; when this changes, it is drawn anew. */
  about: string;
  children: ReactNode;
}

interface State {
  error: Error | null;
  about: string;
}

export class Boundary extends Component<Props, State> {
  override state: State = { error: null, about: this.props.about };

  static getDerivedStateFromError(error: Error): Partial<State> {
    return { error };
  }

  static getDerivedStateFromProps(props: Props, state: State): Partial<State> | null {
    return props.about === state.about ? null : { error: null, about: props.about };
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (error === null) return this.props.children;
    return <Problem error={new Error(`This part cannot be shown (${error.message}). The rest of the page works; change something, or reload.`)} retry={() => this.setState({ error: null })} />;
  }
}
