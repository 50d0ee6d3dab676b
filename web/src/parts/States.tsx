import type { ReactNode } from "react";
import { Button } from "./Button";

/** A page that is still being fetched. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-xl text-muted">
      Fetching {what} …
    </p>
  );
}

/** A page that could not be fetched: the sentence, and one thing to do. */
export function Failing({
  sentence,
  onRetry,
  children,
}: {
  sentence: string;
  onRetry?: () => void;
  children?: ReactNode;
}) {
  return (
    <div role="alert" className="max-w-2xl p-8">
      <h1 className="text-3xl font-bold">{sentence}</h1>
      <div className="mt-4 flex gap-3">
        {onRetry && (
          <Button kind="main" onClick={onRetry}>
            Try again
          </Button>
        )}
        {children}
      </div>
    </div>
  );
}
