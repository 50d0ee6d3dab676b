import clsx from "clsx";
import type { ButtonHTMLAttributes } from "react";

type Kind = "main" | "plain" | "quiet";

const looks: Record<Kind, string> = {
  main: "bg-teal text-on-teal font-semibold px-5 whitespace-nowrap",
  plain: "border border-edge bg-card text-ink px-4 whitespace-nowrap",
  quiet: "text-teal underline underline-offset-4 decoration-1 px-2",
};

/** Classes of a button, for links that look like one. */
export const buttonLook = (kind: Kind) =>
  clsx("inline-flex min-h-11 items-center justify-center gap-2 rounded-sm text-base disabled:opacity-50", looks[kind]);

export function Button({
  kind = "plain",
  className,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return <button type="button" className={clsx(buttonLook(kind), className)} {...rest} />;
}
