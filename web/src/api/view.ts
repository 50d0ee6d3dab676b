import type { Middleware } from "openapi-fetch";

/** Which setups, load and subject a sheet shows; what is left out the server chooses. */
export interface View {
  reference?: number;
  compared?: number;
  load?: string;
  subject?: "processor" | "graphics";
}

const names = ["reference", "compared", "load", "subject"] as const;

let shown = "";

/** A view out of an address. */
export function viewOf(search: URLSearchParams): View {
  const number = (name: string) => (search.has(name) ? Number(search.get(name)) : undefined);
  const subject = search.get("subject");
  return {
    reference: number("reference"),
    compared: number("compared"),
    load: search.get("load") ?? undefined,
    subject: subject === "graphics" || subject === "processor" ? subject : undefined,
  };
}

/** A view as an address writes it; empty for the server's own choice. */
export function viewText(view: View): string {
  const text = new URLSearchParams();
  for (const name of names) {
    if (view[name] !== undefined) {
      text.set(name, String(view[name]));
    }
  }
  return text.toString();
}

/** Every answer from here on is of this view. */
export function lookAt(view: View): string {
  shown = viewText(view);
  return shown;
}

/** The address of a document of what is looked at: a browser that opens it sends no header. */
export const viewed = (path: string) => (shown ? `${path}?view=${encodeURIComponent(shown)}` : path);

/** Tells the server with every request what is looked at, so that what answers a change shows the same. */
export const withView: Middleware = {
  onRequest({ request }) {
    if (shown && /\/api\/(jobs|runs)\//.test(request.url)) {
      request.headers.set("Remedos-View", shown);
    }
    return request;
  },
};
