import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";
import { changeWorkshop, type Role } from "./session";

export type Person = Schemas["PersonAnswer"];
export type Account = Schemas["AccountAnswer"];
export type AuditEntry = Schemas["AuditEntry"];

const peopleKey = ["people"] as const;
const accountKey = ["account"] as const;

/** Who works here, for a lead. */
export const usePeople = (on = true) =>
  useQuery({ queryKey: peopleKey, queryFn: () => call(() => client.GET("/api/people")), enabled: on });

export function usePeopleActions() {
  const cache = useQueryClient();
  const anew = <T>(answer: T) => {
    void cache.invalidateQueries({ queryKey: peopleKey });
    return answer;
  };
  const at = (id: string) => ({ params: { path: { id } } });
  return {
    add: (name: string, role: Role) => call(() => client.POST("/api/people", { body: { name, role } })).then(anew),
    change: (id: string, body: { name?: string; role?: Role; left?: boolean }) =>
      call(() =>
        client.PATCH("/api/people/{id}", {
          ...at(id),
          body: { name: body.name ?? null, role: body.role ?? null, left: body.left ?? null },
        }),
      ).then(anew),
    setPin: (id: string, pin: string | null) =>
      call(() => client.PUT("/api/people/{id}/pin", { ...at(id), body: { pin } })).then(anew),
    invite: (id: string) => call(() => client.POST("/api/people/{id}/invitation", at(id))).then(anew),
    dropCodeApp: (id: string) => call(() => client.DELETE("/api/people/{id}/code-app", at(id))).then(anew),
    endSignIns: (id: string) => call(() => client.DELETE("/api/people/{id}/sign-ins", at(id))).then(anew),
  };
}

/** How whoever works here gets in. */
export const useAccount = () =>
  useQuery({ queryKey: accountKey, queryFn: () => call(() => client.GET("/api/account")) });

export function useAccountActions() {
  const cache = useQueryClient();
  const anew = <T>(answer: T) => {
    void cache.invalidateQueries({ queryKey: accountKey });
    return answer;
  };
  return {
    setPassword: (password: string) =>
      call(() => client.PUT("/api/account/password", { body: { password } })).then(anew),
    setPin: (pin: string | null) => call(() => client.PUT("/api/account/pin", { body: { pin } })).then(anew),
    beginCodeApp: () => call(() => client.POST("/api/account/code-app")),
    finishCodeApp: (code: string) => call(() => client.PUT("/api/account/code-app", { body: { code } })).then(anew),
    dropCodeApp: () => call(() => client.DELETE("/api/account/code-app")).then(anew),
    renewCodes: () => call(() => client.POST("/api/account/recovery-codes")).then(anew),
    endSignIn: (signIn: string) =>
      call(() => client.DELETE("/api/account/sign-ins/{signIn}", { params: { path: { signIn } } })).then(anew),
    endOthers: () => call(() => client.DELETE("/api/account/sign-ins")).then(anew),
    removePasskey: (passkey: string) =>
      call(() => client.DELETE("/api/account/passkeys/{passkey}", { params: { path: { passkey } } })).then(anew),
    addPasskey: async (name: string) => {
      const options = await call(() => client.POST("/api/account/passkeys/challenge", { parseAs: "json" }));
      const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(
        options as unknown as PublicKeyCredentialCreationOptionsJSON,
      );
      const made = (await navigator.credentials.create({ publicKey })) as PublicKeyCredential;
      await call(() =>
        client.POST("/api/account/passkeys", { body: { credential: JSON.stringify(made.toJSON()), name } }),
      ).then(anew);
    },
  };
}

/** What a link to sign in is for. */
export const lookAtLink = (token: string) => call(() => client.POST("/api/join/look", { body: { token } }));

/** Takes a link up with the account that is signed in, and goes to its workshop. */
export const joinAsMyself = (token: string) =>
  call(() => client.POST("/api/join/account", { body: { token } })).then(({ workshop }) => changeWorkshop(workshop));

export const join = (token: string, login: string, password: string) =>
  call(() => client.POST("/api/join", { body: { token, login, password } }));

export interface AuditFilter {
  of: string | null;
  person: string | null;
}

/** Who did what, the latest first, a page at a time. */
export const useAudit = (filter: AuditFilter) =>
  useInfiniteQuery({
    queryKey: ["audit", filter],
    queryFn: ({ pageParam }) =>
      call(() =>
        client.GET("/api/audit", {
          params: {
            query: {
              ...(filter.of && { of: filter.of }),
              ...(filter.person && { person: filter.person }),
              ...(pageParam && { before: pageParam }),
            },
          },
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.before,
  });

export const auditCsv = (filter: AuditFilter) =>
  `/api/audit/audit.csv?${new URLSearchParams({ ...(filter.of && { of: filter.of }), ...(filter.person && { person: filter.person }) })}`;
