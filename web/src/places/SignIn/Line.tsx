import { useId, type InputHTMLAttributes } from "react";

/** A labelled line to type into. */
export function Line({
  label,
  hint,
  ...input
}: { label: string; hint?: string } & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-muted">
        {label}
      </label>
      <input
        id={id}
        aria-describedby={hint && `${id}-hint`}
        className="min-h-12 w-full rounded-sm border border-edge bg-card px-3 text-lg text-ink focus:border-teal"
        {...input}
      />
      {hint && (
        <p id={`${id}-hint`} className="m-0 mt-1 text-muted">
          {hint}
        </p>
      )}
    </div>
  );
}

/** A refusal beside what was refused. */
export const Wrong = ({ sentence }: { sentence: string | undefined }) =>
  sentence ? (
    <p role="alert" className="m-0 border-l-4 border-amber pl-3 font-semibold">
      {sentence}
    </p>
  ) : null;
