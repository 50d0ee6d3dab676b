import { useRef, type ReactNode } from "react";
import { Button } from "./Button";

/** A button that asks for a file. */
export function FileButton({
  accept,
  label,
  disabled,
  kind,
  onFile,
  children,
}: {
  accept: string;
  /** What the file is, for whoever cannot see the button. */
  label: string;
  disabled?: boolean;
  kind?: "main" | "plain" | "quiet";
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button kind={kind} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same file may be chosen once more.
          event.target.value = "";
          if (file) {
            onFile(file);
          }
        }}
      />
    </>
  );
}
