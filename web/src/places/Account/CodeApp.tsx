import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { useAccountActions, type Account } from "../../api/people";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";
import { Line, Wrong } from "../SignIn/Line";

/** A second thing beside the password: a code that an app on one's telephone shows. */
export function CodeApp({ account }: { account: Account }) {
  const { beginCodeApp, finishCodeApp, dropCodeApp, renewCodes } = useAccountActions();
  const [key, setKey] = useState<{ key: string }>();
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<readonly string[]>();
  const [wrong, setWrong] = useState<string>();
  const finish = () =>
    finishCodeApp(code)
      .then((answer) => {
        setCodes(answer.codes);
        setKey(undefined);
        setCode("");
        setWrong(undefined);
      })
      .catch((failure: unknown) => setWrong(sentenceOf(failure, "That did not work. Try it again.")));
  return (
    <section aria-label="Code app">
      <h2 className="mb-2 text-xl font-bold">Code app</h2>
      <p className="mt-0 mb-2 text-muted">
        {account.codeApp
          ? `Beside your password a code is asked for. ${account.recoveryCodes} recovery codes are left.`
          : "A second thing beside the password: a code that an app on your telephone shows. Who learns the password alone stays out."}
      </p>
      {codes && <Codes codes={codes} />}
      {key ? (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void finish();
          }}
        >
          <p className="m-0">Scan this with the app, or type its key, then type the code that it shows.</p>
          <img
            className="size-52 bg-[white]"
            src={`/api/account/code-app.svg`}
            alt={`The key ${key.key} as a picture to scan`}
          />
          <p className="m-0 font-mono text-lg break-all">{key.key.replace(/(.{4})/g, "$1 ")}</p>
          <Line
            label="Code that the app shows"
            inputMode="numeric"
            autoComplete="one-time-code"
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
          <Wrong sentence={wrong} />
          <div className="flex gap-3">
            <Button kind="main" type="submit" disabled={code === ""}>
              Ask for a code from now on
            </Button>
            <Button onClick={() => setKey(undefined)}>Leave it</Button>
          </div>
        </form>
      ) : account.codeApp ? (
        <div className="flex flex-wrap gap-3">
          <Button onClick={() => telling(renewCodes().then((answer) => setCodes(answer.codes)))}>
            New recovery codes
          </Button>
          <Button onClick={() => telling(dropCodeApp())}>Ask for no code</Button>
        </div>
      ) : account.hasPassword ? (
        <Button onClick={() => telling(beginCodeApp().then(setKey))}>Set up a code app</Button>
      ) : (
        <p className="m-0">Set a password first: the code is asked for beside it.</p>
      )}
    </section>
  );
}

/** Shown once. */
function Codes({ codes }: { codes: readonly string[] }) {
  return (
    <div role="status" className="mb-3 border-l-4 border-amber pl-3">
      <p className="m-0 font-semibold">
        Recovery codes, for the day when the telephone is lost. They are shown this once: print them, or copy them to
        where the telephone is not.
      </p>
      <ul className="m-0 mt-2 grid list-none grid-cols-2 gap-x-6 p-0 font-mono text-lg">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <Button className="mt-2" onClick={() => telling(navigator.clipboard.writeText(codes.join("\n")))}>
        Copy them
      </Button>
    </div>
  );
}
