import { UserRound } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type Me } from "../../api/client";
import { changeWorkshop, roleWords, signOut, takeOver, useColleagues } from "../../api/session";
import { Button, buttonLook } from "../../parts/Button";
import { useTheme } from "../../parts/theme";
import { flushAll } from "../../parts/saving";
import { telling } from "../../parts/told";
import { Line, Wrong } from "./Line";

/** Who works at this screen, on every page: a touch, and a colleague takes over. */
export function WhoIsHere({ me }: { me: Me }) {
  const [open, setOpen] = useState(false);
  const theme = useTheme();
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className="flex min-h-11 min-w-11 flex-col items-center justify-center px-1 text-center text-sm text-muted"
        aria-label={`${me.name} works here; change`}
      >
        <UserRound size={22} aria-hidden="true" />
        <span className="hidden max-w-20 truncate md:block">{me.name}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          aria-label="Who works here"
          className="z-30 max-h-[90vh] w-88 overflow-y-auto border border-edge bg-card p-5"
        >
          <h2 className="m-0 text-2xl font-bold">{me.name}</h2>
          <p className="m-0 text-muted">
            {roleWords[me.role]}, {me.workshop}
            {!me.isSelf && " · by PIN, on a device that somebody else signed in"}
          </p>
          <TakeOver me={me} open={open} />
          {me.workshops.length > 1 && me.isSelf && (
            <section className="mt-4 border-t border-hairline pt-3">
              <h3 className="m-0 mb-2 text-lg font-bold">Work in another workshop</h3>
              <div className="flex flex-wrap gap-2">
                {me.workshops
                  .filter((one) => one.id !== me.workshopId)
                  .map((one) => (
                    <Button key={one.id} onClick={() => telling(flushAll().then(() => changeWorkshop(one.id)))}>
                      {one.name}
                    </Button>
                  ))}
              </div>
            </section>
          )}
          <div className="mt-4 flex flex-wrap gap-3 border-t border-hairline pt-4">
            <Link to="/account" className={buttonLook("plain")} onClick={() => setOpen(false)}>
              Your sign-in
            </Link>
            <Button onClick={() => telling(flushAll().then(signOut))}>Sign out</Button>
            <Button className="md:hidden" onClick={theme.toggle}>
              {theme.dark ? "Light theme" : "Dark theme"}
            </Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Who else takes over here, by PIN. */
function TakeOver({ me, open }: { me: Me; open: boolean }) {
  const colleagues = useColleagues(open);
  const [person, setPerson] = useState<string>();
  const others = colleagues.data?.filter((one) => one.id !== me.id && one.hasPin) ?? [];
  const chosen = others.find((one) => one.id === person);
  return (
    <section className="mt-4 border-t border-hairline pt-3">
      <h3 className="m-0 mb-2 text-lg font-bold">Someone else takes over</h3>
      {colleagues.data && others.length === 0 ? (
        <p className="m-0 text-muted">No colleague has a PIN yet. Each sets one under “Your sign-in”.</p>
      ) : (
        <div className="flex flex-wrap gap-2">
          {others.map((one) => (
            <Button
              key={one.id}
              aria-pressed={one.id === person}
              className={one.id === person ? "border-teal bg-teal-soft font-semibold" : ""}
              onClick={() => setPerson(one.id)}
            >
              {one.name}
            </Button>
          ))}
        </div>
      )}
      {chosen && <Pin key={chosen.id} person={chosen} />}
    </section>
  );
}

function Pin({ person }: { person: { id: string; name: string } }) {
  const [pin, setPin] = useState("");
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  return (
    <form
      className="mt-3 grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        setWrong(undefined);
        // What the one before has typed is sent in that one's name.
        flushAll()
          .then(() => takeOver(person.id, pin))
          .catch((failure: unknown) => {
            setPin("");
            setWrong(sentenceOf(failure, "That did not work. Try it again."));
          })
          .finally(() => setBusy(false));
      }}
    >
      <Line
        label={`${person.name}’s PIN`}
        type="password"
        inputMode="numeric"
        autoComplete="off"
        autoFocus
        value={pin}
        onChange={(event) => setPin(event.target.value)}
      />
      <Wrong sentence={wrong} />
      <Button kind="main" type="submit" disabled={busy || pin.length < 4}>
        {person.name} takes over
      </Button>
    </form>
  );
}
