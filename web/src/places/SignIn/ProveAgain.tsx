import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { getSession, Problem, sentenceOf } from "../../api/client";
import { prove, sessionKey, useMe, useSession } from "../../api/session";
import { Button } from "../../parts/Button";
import { Line, Wrong } from "./Line";
import { useQuestion } from "./proof";

/** Asks for the password once more, where something is about to change that a passer-by must not. */
export function ProveAgain() {
  const question = useQuestion();
  return (
    <Dialog.Root open={question !== undefined} onOpenChange={(open) => !open && question?.answer(false)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content className="fixed top-[15vh] left-1/2 z-50 w-[min(30rem,calc(100vw-2rem))] -translate-x-1/2 border border-edge bg-card p-6">
          <Dialog.Title className="text-2xl font-bold">Confirm it is you</Dialog.Title>
          <Dialog.Description className="mt-1 mb-4 text-lg">{question?.sentence}</Dialog.Description>
          {question && <Proof answer={question.answer} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Proof({ answer }: { answer: (done: boolean) => void }) {
  const cache = useQueryClient();
  const demo = useSession().data?.demo ?? false;
  const me = useMe();
  const [password, setPassword] = useState("");
  const [code, setCode] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const submit = async () => {
    setBusy(true);
    setWrong(undefined);
    try {
      await prove(password, code || null);
      const now = await getSession(true);
      if (now.me?.id !== me?.id) {
        // It was the account's owner who came back: the page is another person's now.
        location.reload();
        return;
      }
      cache.setQueryData(sessionKey, now);
      answer(true);
    } catch (failure) {
      const needsCode = failure instanceof Problem && failure.more.type === "needs-code";
      if (needsCode && code === undefined) {
        setCode("");
      } else {
        setWrong(sentenceOf(failure, "That did not work. Try it again."));
      }
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <Line
        label={demo ? "Password (in the demo: none, unless one was set)" : "Password of whoever signed this device in"}
        type="password"
        autoComplete="current-password"
        autoFocus
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {code !== undefined && (
        <Line
          label="Code of the code app, or a recovery code"
          autoComplete="one-time-code"
          autoFocus
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
      )}
      <Wrong sentence={wrong} />
      <div className="flex gap-3">
        <Button kind="main" type="submit" disabled={busy || (!password && !demo)}>
          Confirm
        </Button>
        <Button onClick={() => answer(false)}>Leave it</Button>
      </div>
    </form>
  );
}
