import { at } from "./base";
import { getSession, Problem, type ImportAnswer, type JobSheet } from "./client";

/** Sends a log as it is, with the conditions that lay beside it. fetch cannot tell how much has left, so this takes the older request. */
export async function sendLog(
  jobId: string,
  mount: string,
  conditions: string | undefined,
  file: File,
  onSent: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportAnswer> {
  const largest = (await getSession()).me?.largestLogBytes ?? Infinity;
  if (file.size === 0) {
    throw new Problem(422, `“${file.name}” is empty. A log starts with a header line and has a row for each sample.`);
  }
  if (file.size > largest) {
    const megabytes = (bytes: number) => Math.round(bytes / 1e6);
    throw new Problem(
      413,
      `“${file.name}” has ${megabytes(file.size)} MB; logs up to ${megabytes(largest)} MB are taken. Record at one sample a second, or cut it.`,
    );
  }
  return send<ImportAnswer>(
    `/api/jobs/${jobId}/logs`,
    { mount, ...(conditions && { conditions }) },
    file,
    onSent,
    signal,
  );
}

/** Sends a picture as it is. */
export async function sendPhoto(jobId: string, kind: "photo" | "proof", file: File): Promise<JobSheet> {
  return send<JobSheet>(`/api/jobs/${jobId}/photos`, { kind }, file);
}

/** A page that has grown old gets a new token and one more try, as with any other call. */
export async function send<T>(
  path: string,
  more: Record<string, string>,
  file: File,
  onSent?: (share: number) => void,
  signal?: AbortSignal,
): Promise<T> {
  try {
    return await sendOnce<T>(path, more, file, (await getSession()).token, onSent, signal);
  } catch (failure) {
    if (failure instanceof Problem && failure.more.type === "stale-page") {
      return sendOnce<T>(path, more, file, (await getSession(true)).token, onSent, signal);
    }
    throw failure;
  }
}

function sendOnce<T>(
  path: string,
  more: Record<string, string>,
  file: File,
  token: string,
  onSent?: (share: number) => void,
  signal?: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `${at(path)}?${new URLSearchParams({ ...more, fileName: file.name })}`);
    request.setRequestHeader("X-Remedos-Token", token);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (event) => onSent?.(event.loaded / Math.max(1, file.size));
    request.onload = () => {
      const body = parse(request.responseText);
      if (request.status >= 200 && request.status < 300) {
        resolve(body as T);
      } else {
        const more = (body as Record<string, unknown> | undefined) ?? {};
        const detail = typeof more.detail === "string" ? more.detail : undefined;
        reject(new Problem(request.status, detail ?? `“${file.name}” was refused (${request.status}).`, more));
      }
    };
    request.onerror = () =>
      reject(
        new Problem(0, `“${file.name}” could not be sent: the server does not answer. Choose it again in a moment.`),
      );
    request.onabort = () => reject(new DOMException("stopped", "AbortError"));
    signal?.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
