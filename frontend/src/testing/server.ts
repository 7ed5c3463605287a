/** A request as it reached the server of a test. */
export interface Received {
  method: string;
  path: string;
  /** What stands at the placeholders of the route, such as `id`. */
  params: Record<string, string>;
  query: URLSearchParams;
  /** The JSON that was sent, or the text where it is none. */
  body: any; // eslint-disable-line @typescript-eslint/no-explicit-any -- every route has a body of its own
  headers: Headers;
}

/** What a route answers: JSON with status 200, or a response of its own. */
type Handler = (request: Received) => unknown;

/** The API as one test needs it. Requests go through the real client; a path without a handler is answered with 404. */
class TestServer {
  /** While true no request reaches the server. */
  offline = false;
  received: Received[] = [];
  private test = 0;
  private routes: { method: string; pattern: RegExp; handler: Handler }[] = [];

  /** Answers `PUT /api/builds/{id}` and its like; a later handler of the same route replaces the earlier one. */
  on(route: string, handler: Handler): void {
    const [method, path] = route.split(' ') as [string, string];
    const pattern = new RegExp(`^${path.replace(/\{(\w+)\}/g, '(?<$1>[^/]+)')}$`);
    this.routes.unshift({ method, pattern, handler });
  }

  /** The requests that a route has received, in their order. */
  to(route: string): Received[] {
    const [method, path] = route.split(' ') as [string, string];
    const pattern = new RegExp(`^${path.replace(/\{(\w+)\}/g, '[^/]+')}$`);
    return this.received.filter((r) => r.method === method && pattern.test(r.path));
  }

  reset(): void {
    this.test++;
    this.offline = false;
    this.received = [];
    this.routes = [];
  }

  async answer(request: Request): Promise<Response> {
    if (this.offline) throw new TypeError('The network is down.');
    const { pathname, searchParams } = new URL(request.url);
    const { test } = this;
    const text = await request.text();
    if (test !== this.test) throw new TypeError('The test that asked is over.');
    for (const { method, pattern, handler } of this.routes) {
      const found = method === request.method && pattern.exec(pathname);
      if (!found) continue;
      const received: Received = {
        method,
        path: pathname,
        params: Object.fromEntries(
          Object.entries(found.groups ?? {}).map(([k, v]) => [k, decodeURIComponent(v)]),
        ),
        query: searchParams,
        body: parsed(text),
        headers: request.headers,
      };
      this.received.push(received);
      const answer = await handler(received);
      return answer instanceof Response ? answer : json(200, answer);
    }
    return json(404, { message: `No route for ${request.method} ${pathname} in this test.`, faults: [] });
  }
}

function parsed(text: string): unknown {
  try {
    return text ? JSON.parse(text) : undefined;
  } catch {
    return text;
  }
}

/** An answer with a status of its own. */
export function json(status: number, body: unknown, headers: Record<string, string> = {}): Response {
  return new Response(JSON.stringify(body), {
    status,
    headers: { 'Content-Type': 'application/json', ...headers },
  });
}

export const server = new TestServer();
