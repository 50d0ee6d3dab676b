import { useState } from "react";
import type { Schemas } from "../../api/client";
import { sentenceOf } from "../../api/client";
import { useBayActions, type Bay } from "../../api/bays";
import { Button } from "../../parts/Button";

/** How a machine finds its way to a bay: a token that is shown once, and the command that uses it. */
export function Join({ bay }: { bay: Bay }) {
  const { makeToken } = useBayActions();
  const [made, setMade] = useState<Schemas["BayTokenAnswer"]>();
  const [problem, setProblem] = useState<string>();
  const make = () => {
    setProblem(undefined);
    makeToken(bay.id).then(setMade, (failure: unknown) => setProblem(sentenceOf(failure, "No token was made.")));
  };
  return (
    <div className="my-3">
      {made ? (
        <>
          <p className="mb-1 text-muted">On the machine under test:</p>
          <code className="block font-mono text-sm break-all">
            ./remedos-probe --join {made.address}/bays/{made.number}#{made.token}
          </code>
          <p className="mt-2 mb-1 text-muted">Or anything that sends to bay {made.number} with the token</p>
          <code className="block font-mono text-sm break-all">{made.token}</code>
          <p className="mt-2 mb-0">Note it now: it is shown this once.</p>
          {!made.elsewhere && (
            <p className="mt-2 mb-0 border-l-4 border-amber pl-3">
              This server answers on this machine only. On another, open a way to it first:{" "}
              <code className="font-mono text-sm break-all">
                ssh -L {new URL(made.address).port || "80"}:{new URL(made.address).host} THIS-MACHINE
              </code>
            </p>
          )}
        </>
      ) : (
        <>
          <Button onClick={make}>Connect a machine</Button>
          <p className="mt-2 mb-0 text-muted">
            {bay.lastSeenAt === null
              ? "Makes a token, with which a machine sends to this bay."
              : "Makes a new token; the machine that sends now is not believed any more."}
          </p>
        </>
      )}
      {problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {problem}
        </p>
      )}
    </div>
  );
}
