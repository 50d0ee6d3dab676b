import { useQuery } from "@tanstack/react-query";
import { call, client, getSession, type Me, type Schemas } from "./client";

export type Role = Schemas["Role"];

export const sessionKey = ["session"] as const;

/** The workshop and the person at this screen, or that nobody is signed in. */
export const useSession = () =>
  useQuery({ queryKey: sessionKey, queryFn: () => getSession(true), staleTime: Infinity });

/** Whoever works at this screen; undefined for nobody. */
export const useMe = (): Me | undefined => useSession().data?.me ?? undefined;

export const roleWords: Record<Role, string> = {
  reader: "looks on",
  technician: "technician",
  lead: "lead",
};

/** Another person, or none: the page begins anew, so that nothing of the one before stays on it. */
const anew = () => location.reload();
const fromTheStart = () => location.assign("/");

export const signIn = (name: string, password: string, code: string | null) =>
  call(() => client.POST("/api/sign-in", { body: { name, password, code } })).then(anew);

export const signInByTouch = (person: string) =>
  call(() => client.POST("/api/sign-in/touch", { body: { person } })).then(anew);

export const signOut = () => call(() => client.POST("/api/sign-out")).then(fromTheStart);

export const useColleagues = (open: boolean) =>
  useQuery({
    queryKey: ["colleagues"],
    queryFn: () => call(() => client.GET("/api/session/colleagues")),
    enabled: open,
  });

export const takeOver = (person: string, pin: string) =>
  call(() => client.POST("/api/session/person", { body: { person, pin } })).then(anew);

export const changeWorkshop = (workshop: string) =>
  call(() => client.POST("/api/session/workshop", { body: { workshop } })).then(fromTheStart);

export const prove = (password: string, code: string | null) =>
  call(() => client.POST("/api/session/proof", { body: { password, code } }));

/** Whether this browser has passkeys here: they want a name, and TLS beyond this machine. */
export const passkeysHere = () =>
  isSecureContext &&
  typeof PublicKeyCredential !== "undefined" &&
  "parseRequestOptionsFromJSON" in PublicKeyCredential &&
  !/^[\d.]+$|^\[/.test(location.hostname);

export async function signInByPasskey() {
  const options = await call(() => client.POST("/api/sign-in/passkey/challenge", { parseAs: "json" }));
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(
    options as unknown as PublicKeyCredentialRequestOptionsJSON,
  );
  const credential = (await navigator.credentials.get({ publicKey })) as PublicKeyCredential;
  await call(() =>
    client.POST("/api/sign-in/passkey", { body: { credential: JSON.stringify(credential.toJSON()) } }),
  ).then(anew);
}
