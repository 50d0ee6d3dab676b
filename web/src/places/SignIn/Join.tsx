import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { call, client, sentenceOf } from "../../api/client";
import { join, joinAsMyself, lookAtLink } from "../../api/people";
import { roleWords, useMe, type Role } from "../../api/session";
import { Button } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { Line, Wrong } from "./Line";

/** What somebody sees who opens a link to sign in: a name and a password to choose. */
export function JoinPlace() {
  useTitle("Come in");
  // Behind the sign that browsers send to nobody.
  const [token] = useState(() => location.hash.slice(1));
  const me = useMe();
  const link = useQuery({ queryKey: ["join", token], queryFn: () => lookAtLink(token), retry: false });
  if (link.isError) {
    return <Failing sentence={link.error.message} />;
  }
  return link.data ? (
    <main className="mx-auto max-w-xl px-5 py-10 md:py-16">
      <p className="m-0 text-xl font-bold text-muted">Remedos, {link.data.workshop}</p>
      <h1 className="mt-2 mb-2 text-4xl font-bold">Welcome, {link.data.name}</h1>
      {me ? (
        <Known token={token} who={me.name} where={me.workshop} workshop={link.data.workshop} role={link.data.role} />
      ) : (
        <>
          <p className="mt-0 mb-6 text-lg text-muted">
            {link.data.login
              ? "Choose a new password. It ends every sign-in that there is."
              : `You come in as ${roleWords[link.data.role]}. Choose a name to sign in by, and a password.`}
          </p>
          <Choose token={token} login={link.data.login} shortest={link.data.shortestPassword} />
        </>
      )}
    </main>
  ) : (
    <Loading what="the link" />
  );
}

/** Somebody who is signed in already works here, too: by the same account, or signs out for another. */
function Known({
  token,
  who,
  where,
  workshop,
  role,
}: {
  token: string;
  who: string;
  where: string;
  workshop: string;
  role: Role;
}) {
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const doing = (change: Promise<unknown>) => {
    setBusy(true);
    setWrong(undefined);
    change
      .catch((failure: unknown) => setWrong(sentenceOf(failure, "That did not work. Try it again.")))
      .finally(() => setBusy(false));
  };
  return (
    <div className="grid gap-4">
      <p className="m-0 text-lg text-muted">
        {`${who} is signed in here, at ${where}. The same way in can lead to ${workshop} as well, as ${roleWords[role]}.`}
      </p>
      <Wrong sentence={wrong} />
      <div className="flex flex-wrap gap-3">
        <Button kind="main" disabled={busy} onClick={() => doing(joinAsMyself(token))}>
          {`Come to ${workshop} as well`}
        </Button>
        <Button disabled={busy} onClick={() => doing(leaveFirst())}>
          I am somebody else
        </Button>
      </div>
    </div>
  );
}

/** Signs out and opens the same link once more. */
const leaveFirst = () => call(() => client.POST("/api/sign-out")).then(() => location.reload());

function Choose({ token, login, shortest }: { token: string; login: string | null; shortest: number }) {
  const [name, setName] = useState(login ?? "");
  const [password, setPassword] = useState("");
  const [shown, setShown] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        setWrong(undefined);
        join(token, name, password)
          .then(() => location.assign("/"))
          .catch((failure: unknown) => setWrong(sentenceOf(failure, "That did not work. Try it again.")))
          .finally(() => setBusy(false));
      }}
    >
      <Line
        label="Name to sign in by"
        name="username"
        autoComplete="username"
        autoCapitalize="none"
        readOnly={login !== null}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Line
        label="Password"
        hint={`At least ${shortest} letters. Four or five words that do not belong together are easy to keep and hard to guess.`}
        type={shown ? "text" : "password"}
        name="password"
        autoComplete="new-password"
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Wrong sentence={wrong} />
      <div className="flex flex-wrap gap-3">
        <Button kind="main" type="submit" disabled={busy || !name || !password}>
          Come in
        </Button>
        <Button onClick={() => setShown(!shown)} aria-pressed={shown}>
          {shown ? "Hide the password" : "Show the password"}
        </Button>
      </div>
    </form>
  );
}
