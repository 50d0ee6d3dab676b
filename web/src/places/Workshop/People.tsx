import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { usePeople, usePeopleActions, type Person } from "../../api/people";
import { roleWords, useMe, type Role } from "../../api/session";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { telling } from "../../parts/told";
import { moment } from "../../parts/words";
import { Line, Wrong } from "../SignIn/Line";

const roles: readonly (readonly [Role, string])[] = [
  ["technician", "Technician"],
  ["lead", "Lead"],
  ["reader", "Looks on"],
];

/** Who works here, in which role, and how each gets in: a lead's to say. */
export function People() {
  const me = useMe();
  const people = usePeople(me?.rights === "lead");
  const [open, setOpen] = useState<string>();
  return (
    <section aria-label="People">
      <h2 className="mb-2 text-xl font-bold">People</h2>
      {me?.rights !== "lead" ? (
        <p className="m-0 text-muted">
          {me?.role === "lead"
            ? "You came by PIN: the lead’s own things ask for your password first."
            : "A lead says who works here, and in which role."}
        </p>
      ) : people.isError ? (
        <p role="alert" className="m-0 font-semibold text-amber">
          {people.error.message}
        </p>
      ) : (
        <>
          <ul className="m-0 list-none p-0">
            {people.data?.map((person) => (
              <li key={person.id} className="border-t border-hairline py-1">
                <button
                  type="button"
                  aria-expanded={open === person.id}
                  className="flex min-h-12 w-full items-center justify-between gap-3 text-left"
                  onClick={() => setOpen(open === person.id ? undefined : person.id)}
                >
                  <span className={person.leftAt ? "text-muted" : ""}>
                    <strong className="text-lg">{person.name}</strong>{" "}
                    {person.leftAt ? "has left" : roleWords[person.role]}
                  </span>
                  <span className="text-right text-muted">{wayIn(person)}</span>
                </button>
                {open === person.id && <Details key={person.id} person={person} />}
              </li>
            ))}
          </ul>
          <Add />
        </>
      )}
    </section>
  );
}

/** How somebody gets in, in a few words. */
function wayIn(person: Person) {
  return person.leftAt
    ? ""
    : [
        person.login ? `signs in as ${person.login}` : null,
        person.codeApp ? "with a code" : null,
        person.hasPin ? "PIN" : null,
        person.invitedUntil ? `link until ${moment(person.invitedUntil)}` : null,
      ]
        .filter(Boolean)
        .join(" · ") || "no way in yet";
}

function Details({ person }: { person: Person }) {
  const { change, setPin, invite, endSignIns, dropCodeApp } = usePeopleActions();
  const [name, setName] = useState(person.name);
  const [pin, setPinText] = useState("");
  const [link, setLink] = useState<{ address: string; elsewhere: boolean; until: string }>();
  const [wrong, setWrong] = useState<string>();
  const doing = (act: Promise<unknown>) => {
    setWrong(undefined);
    act.catch((failure: unknown) => setWrong(sentenceOf(failure, "That did not work. Try it again.")));
  };
  return (
    <div className="grid gap-4 pb-5">
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          doing(change(person.id, { name }));
        }}
      >
        <div className="grow">
          <Line label="Name" value={name} onChange={(event) => setName(event.target.value)} />
        </div>
        <Button type="submit" disabled={name === person.name}>
          Rename
        </Button>
      </form>
      <Choice
        label="Role"
        value={person.role}
        options={roles}
        onChange={(role) => role && doing(change(person.id, { role: role as Role }))}
      />
      <div className="flex flex-wrap gap-3">
        <Button kind={person.login ? "plain" : "main"} onClick={() => doing(invite(person.id).then(setLink))}>
          {person.login ? "Link for a new password" : "Link to sign in"}
        </Button>
        <Button onClick={() => doing(endSignIns(person.id))}>Sign out everywhere</Button>
        {person.codeApp && <Button onClick={() => doing(dropCodeApp(person.id))}>Ask for no code</Button>}
        <Button onClick={() => doing(change(person.id, { left: person.leftAt === null }))}>
          {person.leftAt ? "Is back" : "Has left"}
        </Button>
      </div>
      {link && (
        <div role="status" className="border-l-4 border-teal pl-3">
          <p className="m-0">
            For {person.name} alone, once, until {moment(link.until)}. It is shown this once.
            {!link.elsewhere &&
              " It opens on this machine only: others reach Remedos by no name yet (docs/operating.md)."}
          </p>
          <p className="m-0 my-2 font-mono break-all">{link.address}</p>
          <Button onClick={() => telling(navigator.clipboard.writeText(link.address))}>Copy it</Button>
        </div>
      )}
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          doing(setPin(person.id, pin).then(() => setPinText("")));
        }}
      >
        <div className="grow">
          <Line
            label={person.hasPin ? "Another PIN" : "A PIN, to take over at a bench"}
            type="password"
            inputMode="numeric"
            autoComplete="off"
            value={pin}
            onChange={(event) => setPinText(event.target.value)}
          />
        </div>
        <Button type="submit" disabled={pin === ""}>
          Set it
        </Button>
        {person.hasPin && <Button onClick={() => doing(setPin(person.id, null))}>Take it away</Button>}
      </form>
      <Wrong sentence={wrong} />
    </div>
  );
}

function Add() {
  const { add } = usePeopleActions();
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("technician");
  const [wrong, setWrong] = useState<string>();
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <div className="border-t border-hairline pt-3">
        <Button onClick={() => setOpen(true)}>Add a person</Button>
      </div>
    );
  }
  return (
    <form
      className="grid gap-3 border-t border-hairline pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        add(name, role)
          .then(() => {
            setName("");
            setWrong(undefined);
            setOpen(false);
          })
          .catch((failure: unknown) => setWrong(sentenceOf(failure, "That did not work. Try it again.")));
      }}
    >
      <Line label="Name" autoFocus value={name} onChange={(event) => setName(event.target.value)} />
      <Choice
        label="Their role"
        hideLabel
        value={role}
        options={roles}
        onChange={(next) => next && setRole(next as Role)}
      />
      <Wrong sentence={wrong} />
      <div>
        <Button type="submit" disabled={name.trim() === ""}>
          Add them
        </Button>
      </div>
    </form>
  );
}
