import { KeyRound } from "lucide-react";
import { useState } from "react";
import { Problem, sentenceOf, type Session } from "../../api/client";
import { passkeysHere, roleWords, signIn, signInByPasskey, signInByTouch } from "../../api/session";
import { Button } from "../../parts/Button";
import { useTitle } from "../../parts/useTitle";
import { Line, Wrong } from "./Line";

/** Who works at this screen: the first thing that it wants to know. */
export function SignIn({ session }: { session: Session }) {
  useTitle("Sign in");
  return (
    <main className="mx-auto max-w-xl px-5 py-10 md:py-16">
      <p className="m-0 text-xl font-bold text-muted">Remedos</p>
      {session.demo ? (
        <Touch session={session} />
      ) : session.unopened ? (
        <Unopened />
      ) : (
        <>
          <h1 className="mt-2 mb-6 text-4xl font-bold">Who works at this screen?</h1>
          <ByName />
        </>
      )}
    </main>
  );
}

/** The demo: everybody in it is invented, and a touch is enough. */
function Touch({ session }: { session: Session }) {
  const [wrong, setWrong] = useState<string>();
  return (
    <>
      <h1 className="mt-2 mb-2 text-4xl font-bold">Who works at this screen?</h1>
      <p className="mt-0 mb-6 text-lg text-muted">
        This is the demo: everybody in it is invented, and a touch signs in. A workshop’s own has names and passwords.
      </p>
      <ul className="m-0 grid list-none gap-3 p-0 sm:grid-cols-2">
        {session.touch.map((person) => (
          <li key={person.id}>
            <button
              type="button"
              className="flex min-h-20 w-full flex-col items-start justify-center rounded-sm border border-edge bg-card px-5 text-left hover:border-teal"
              onClick={() =>
                signInByTouch(person.id).catch((failure: unknown) =>
                  setWrong(sentenceOf(failure, "That did not work. Try it again.")),
                )
              }
            >
              <span className="text-2xl font-bold">{person.name}</span>
              <span className="text-muted">{roleWords[person.role]}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-5 text-muted">
        Once one is in, the others take over at the same screen by PIN; in the demo it is 2580.
      </p>
      <Wrong sentence={wrong} />
    </>
  );
}

function Unopened() {
  return (
    <>
      <h1 className="mt-2 text-4xl font-bold">Nobody can sign in yet</h1>
      <p className="mt-3 text-lg">
        The terminal that started Remedos shows a link for the first lead. Open it once, within two days, and choose a
        name and a password.
      </p>
      <p className="mt-3 text-muted">
        Gone from the screen? Stop Remedos there, and start it again: it shows a new one.
      </p>
    </>
  );
}

function ByName() {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const during = (act: () => Promise<void>) => {
    setBusy(true);
    setWrong(undefined);
    act()
      .catch((failure: unknown) => {
        if (failure instanceof Problem && failure.more.type === "needs-code") {
          setCode((now) => now ?? "");
          if (code === undefined) {
            return;
          }
        }
        setWrong(sentenceOf(failure, "That did not work. Try it again."));
      })
      .finally(() => setBusy(false));
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        during(() => signIn(name, password, code || null));
      }}
    >
      <Line
        label="Name to sign in by"
        name="username"
        autoComplete="username"
        autoCapitalize="none"
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Line
        label="Password"
        type="password"
        name="password"
        autoComplete="current-password"
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {code !== undefined && (
        <Line
          label="Code of your code app, or a recovery code"
          autoComplete="one-time-code"
          autoFocus
          className="min-h-12 w-full rounded-sm border border-edge bg-card px-3 font-mono text-2xl text-ink focus:border-teal"
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
      )}
      <Wrong sentence={wrong} />
      <div className="flex flex-wrap gap-3">
        <Button kind="main" type="submit" disabled={busy || !name || !password}>
          Sign in
        </Button>
        {passkeysHere() && (
          <Button onClick={() => during(signInByPasskey)} disabled={busy}>
            <KeyRound size={20} aria-hidden="true" /> By passkey
          </Button>
        )}
      </div>
      <p className="m-0 text-muted">
        Password lost? A lead makes a new link for you under Workshop, People. For the lead, ./start --no-demo
        --lead-link shows one where Remedos runs.
      </p>
    </form>
  );
}
