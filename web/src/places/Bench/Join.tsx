import type { Bay } from "../../api/bays";

/** How a machine finds its way to a bay: the command for a stick, the token, and both as a code. */
export function Join({ bay }: { bay: Bay }) {
  const link = `${location.origin}/bays/${bay.number}#${bay.token}`;
  return (
    <div className="my-3 flex flex-wrap items-start gap-4">
      <img
        src={`/api/bays/${bay.id}/join.svg`}
        alt={`A code that holds the link of bay ${bay.number}`}
        className="size-32 bg-white p-1"
      />
      <div className="min-w-0 grow basis-56">
        <p className="mb-1 text-muted">On the machine under test:</p>
        <code className="block font-mono text-sm break-all">./remedos probe --join {link}</code>
        <p className="mt-2 mb-1 text-muted">Or anything that sends to bay {bay.number} with the token</p>
        <code className="block font-mono text-sm break-all">{bay.token}</code>
      </div>
    </div>
  );
}
