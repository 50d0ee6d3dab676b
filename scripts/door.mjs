// Signs a script in, as the page does.

const kept = (answer, cookies = {}) => {
  for (const line of answer.headers.getSetCookie()) {
    const [name, value] = line.split(";")[0].split(/=(.*)/s);
    cookies[name] = value;
  }
  return cookies;
};
const written = (cookies) =>
  Object.entries(cookies)
    .map(([name, value]) => `${name}=${value}`)
    .join("; ");

/** Comes in by one of the server's ways, such as /api/sign-in: the headers by which it knows whoever came. */
export async function comeIn(address, way, body) {
  return (await enterBy(address, way, () => body)).headers;
}

/** As one of a demo's people: the headers, and the cookies alone. */
export const enter = (address, name = "Ines") =>
  enterBy(address, "/api/sign-in/touch", (session) => ({ person: session.touch.find((one) => one.name === name).id }));

async function enterBy(address, way, bodyOf) {
  const outside = await fetch(`${address}/api/session`);
  const cookies = kept(outside);
  const session = await outside.json();
  const inside = await fetch(address + way, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-Remedos-Token": session.token, Cookie: written(cookies) },
    body: JSON.stringify(bodyOf(session)),
  });
  if (!inside.ok) {
    throw new Error(await inside.text());
  }
  kept(inside, cookies);
  const known = await fetch(`${address}/api/session`, { headers: { Cookie: written(cookies) } });
  kept(known, cookies);
  return { headers: { "X-Remedos-Token": (await known.json()).token, Cookie: written(cookies) }, cookies };
}

/** The cookies as a browser of Playwright takes them. */
export const storage = (address, cookies) => ({
  cookies: Object.entries(cookies).map(([name, value]) => ({
    name,
    value,
    domain: new URL(address).hostname,
    path: "/",
    expires: -1,
    httpOnly: true,
    secure: false,
    sameSite: "Strict",
  })),
  origins: [],
});
