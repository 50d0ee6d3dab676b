/** Comes in by one of the server's ways, such as /api/sign-in: the headers by which it knows whoever came. */
export function comeIn(address: string, way: string, body: unknown): Promise<Record<string, string>>;
export function enter(address: string, name?: string): Promise<{ headers: Record<string, string>; cookies: Record<string, string> }>;
export function storage(address: string, cookies: Record<string, string>): object;
