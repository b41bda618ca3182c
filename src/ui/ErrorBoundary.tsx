'use client';
import { Component } from 'react';
import type { ReactNode } from 'react';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { Button } from './Button';
import { ProblemNote } from './ProblemNote';

interface Props {
  /** What it holds, as people call it: "The board". */
  readonly name: string;
  readonly children: ReactNode;
}
interface State {
  readonly problem: Problem | null;
}

/** Keeps a failure of one part of the screen from taking the others with it. */
export class ErrorBoundary extends Component<Props, State> {
  override state: State = { problem: null };

  static getDerivedStateFromError(error: unknown): State {
    return { problem: describeError(error) };
  }

  override render(): ReactNode {
    const { name, children } = this.props;
    const { problem } = this.state;
    if (!problem) return children;
    const kept = 'Your work is kept.';
    const message = `${name} cannot be shown: ${problem.message}`;
    return (
      <div className="p-4">
        <ProblemNote
          problem={{ ...problem, message, kept, action: 'Show it again, or undo the last change.' }}
        />
        <Button
          className="mt-2"
          onClick={() => {
            this.setState({ problem: null });
          }}
        >
          Show it again
        </Button>
      </div>
    );
  }
}
