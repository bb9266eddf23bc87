import { Component, type ReactNode } from "react";

import { Notice } from "./Notice";

interface Props {
  /** What the person knows the part by: "page", "stage", "pictures". */
  part: string;
  /** Where this changes, what failed is tried anew. */
  at?: string;
  children: ReactNode;
}

interface State {
  problem: Error | null;
}

/** A file of the application that is no longer there: it was replaced while the page was open. */
const isGone = (problem: Error) =>
  /dynamically imported module|Importing a module script/i.test(problem.message);

/** Keeps a failure in one part from taking the rest of the page with it. */
export class Boundary extends Component<Props, State> {
  state: State = { problem: null };

  static getDerivedStateFromError(problem: unknown): State {
    return { problem: problem instanceof Error ? problem : new Error(String(problem)) };
  }

  componentDidUpdate(before: Props) {
    if (before.at !== this.props.at && this.state.problem) this.setState({ problem: null });
  }

  render() {
    const { problem } = this.state;
    if (!problem) return this.props.children;
    if (isGone(problem))
      return (
        <Notice
          problem={new Error("Plinto was renewed while this page was open. Load it anew.")}
          onRetry={() => window.location.reload()}
        />
      );
    return (
      <Notice
        problem={
          new Error(`This ${this.props.part} failed; what was saved is safe. (${problem.message})`)
        }
        onRetry={() => this.setState({ problem: null })}
      />
    );
  }
}
