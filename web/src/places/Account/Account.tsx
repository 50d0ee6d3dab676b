import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { useAccount, useAccountActions, type Account } from "../../api/people";
import { passkeysHere } from "../../api/session";
import { Button } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { telling } from "../../parts/told";
import { useTitle } from "../../parts/useTitle";
import { moment } from "../../parts/words";
import { Line, Wrong } from "../SignIn/Line";
import { CodeApp } from "./CodeApp";

/** One's own way in: password, code app, passkeys, PIN, and the devices that are signed in. */
export function AccountPlace() {
  useTitle("Your sign-in");
  const account = useAccount();
  if (account.isError) {
    return <Failing sentence={account.error.message} onRetry={() => void account.refetch()} />;
  }
  if (!account.data) {
    return <Loading what="how you sign in" />;
  }
  const { person, login } = account.data;
  return (
    <div className="px-4 py-5 md:px-7">
      <h1 className="text-3xl font-bold">{person}’s sign-in</h1>
      {login === null ? (
        <p className="max-w-2xl text-lg">
          {person} works here by PIN, on a device that somebody else signed in. Password, passkeys and devices are shown
          where {person} signs in by name.
        </p>
      ) : (
        <>
          <p className="m-0 text-lg text-muted">
            Name to sign in by: <strong className="text-ink">{login}</strong>
          </p>
          <div className="mt-6 grid gap-x-14 gap-y-9 lg:grid-cols-2">
            <div className="grid content-start gap-9">
              <Password account={account.data} />
              <Pin account={account.data} />
              <CodeApp account={account.data} />
            </div>
            <div className="grid content-start gap-9">
              <Devices account={account.data} />
              <Passkeys account={account.data} />
            </div>
          </div>
        </>
      )}
    </div>
  );
}

/** A line, a button, and what the server says to it. */
function OneLine({
  label,
  hint,
  button,
  done,
  type,
  submit,
}: {
  label: string;
  hint: string;
  button: string;
  done: string;
  type: "password" | "text";
  submit: (text: string) => Promise<unknown>;
}) {
  const [text, setText] = useState("");
  const [told, setTold] = useState<{ wrong?: string; done?: boolean }>({});
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        submit(text)
          .then(() => {
            setText("");
            setTold({ done: true });
          })
          .catch((failure: unknown) => setTold({ wrong: sentenceOf(failure, "That did not work. Try it again.") }));
      }}
    >
      <Line
        label={label}
        hint={hint}
        type={type}
        autoComplete={type === "password" ? "new-password" : "off"}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Wrong sentence={told.wrong} />
      <div className="flex items-center gap-3">
        <Button type="submit" disabled={text === ""}>
          {button}
        </Button>
        {told.done && <span role="status">{done}</span>}
      </div>
    </form>
  );
}

function Password({ account }: { account: Account }) {
  const { setPassword } = useAccountActions();
  return (
    <section aria-label="Password">
      <h2 className="mb-2 text-xl font-bold">Password</h2>
      <OneLine
        label={account.hasPassword ? "Another password" : "A password"}
        hint="At least 15 letters: four or five words that do not belong together. It ends your sign-ins on other devices."
        button={account.hasPassword ? "Change it" : "Set it"}
        done="It is set."
        type="password"
        submit={setPassword}
      />
    </section>
  );
}

function Pin({ account }: { account: Account }) {
  const { setPin } = useAccountActions();
  return (
    <section aria-label="PIN">
      <h2 className="mb-2 text-xl font-bold">PIN</h2>
      <p className="mt-0 mb-2 text-muted">
        {account.hasPin ? "You have one." : "You have none yet."} With it you take over at a bench that somebody has
        signed in, and what you do there stands under your name. It opens nothing else.
      </p>
      <OneLine
        label={account.hasPin ? "Another PIN" : "A PIN"}
        hint="4 to 8 figures."
        button={account.hasPin ? "Change it" : "Set it"}
        done="It is set."
        type="password"
        submit={setPin}
      />
    </section>
  );
}

function Passkeys({ account }: { account: Account }) {
  const { addPasskey, removePasskey } = useAccountActions();
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState<string>();
  return (
    <section aria-label="Passkeys">
      <h2 className="mb-2 text-xl font-bold">Passkeys</h2>
      <p className="mt-0 mb-2 text-muted">
        A device’s own lock (finger, face, its PIN) instead of the password. It cannot be guessed, nor given away to a
        false page.
      </p>
      <ul className="m-0 list-none p-0">
        {account.passkeys.map((passkey) => (
          <li key={passkey.id} className="flex items-center justify-between gap-3 border-t border-hairline py-1">
            <span>
              {passkey.name} <span className="text-muted">since {moment(passkey.madeAt)}</span>
            </span>
            <Button kind="quiet" className="shrink-0" onClick={() => telling(removePasskey(passkey.id))}>
              Take away
            </Button>
          </li>
        ))}
      </ul>
      {passkeysHere() ? (
        <form
          className="mt-2 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            setWrong(undefined);
            addPasskey(name)
              .then(() => setName(""))
              .catch((failure: unknown) => setWrong(sentenceOf(failure, "The passkey was not made.")));
          }}
        >
          <Line
            label="Add this device; called"
            placeholder="Bench tablet"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Wrong sentence={wrong} />
          <div>
            <Button type="submit">Add a passkey</Button>
          </div>
        </form>
      ) : (
        <p className="mt-2 mb-0">
          {/^[\d.]+$/.test(location.hostname) ? (
            <>
              Browsers keep passkeys for names, not for figures: open{" "}
              <a
                className="text-teal underline underline-offset-4"
                href={location.href.replace(location.hostname, "localhost")}
              >
                this page by its name
              </a>{" "}
              and add one there.
            </>
          ) : (
            "This browser has no passkeys here: they want https, or this machine’s own name, localhost."
          )}
        </p>
      )}
    </section>
  );
}

function Devices({ account }: { account: Account }) {
  const { endSignIn, endOthers } = useAccountActions();
  return (
    <section aria-label="Devices">
      <h2 className="mb-2 text-xl font-bold">Signed in at</h2>
      <ul className="m-0 list-none p-0">
        {account.signIns.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-3 border-t border-hairline py-2">
            <span>
              <strong>{one.device}</strong>
              {one.here && " · this device"}
              {one.person !== account.person && ` · ${one.person} works there`}
              <br />
              <span className="text-muted">
                since {moment(one.at)}, last used {moment(one.seenAt)}, from {one.address || "this machine"}, by{" "}
                {one.way}
              </span>
            </span>
            {!one.here && (
              <Button kind="quiet" className="shrink-0" onClick={() => telling(endSignIn(one.id))}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      {account.signIns.length > 1 && (
        <Button className="mt-3" onClick={() => telling(endOthers())}>
          End all others
        </Button>
      )}
    </section>
  );
}
