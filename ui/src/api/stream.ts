/** What is heard of a stream: an event's name and what it carries. */
interface Heard {
  name: string
  data: unknown
}

/**
 * Follows a stream of server-sent events. Returns how to stop.
 *
 * A browser has only six connections for one server, so all its tabs share one
 * stream: the tab that holds the lock of its address reads it for all. When that
 * one goes, another takes over. Where there are no locks (a page that did not
 * come over TLS from another machine) each tab reads its own.
 *
 * A page that the browser sets aside for the Back button lets go of it, and takes
 * it up again when it is shown.
 */
export function followStream(
  url: string,
  heard: Record<string, (data: unknown) => void>,
  broken: () => void = () => undefined,
): () => void {
  let stop: (() => void) | null = null
  const open = () => {
    stop ??= share(url, Object.keys(heard), (e) => heard[e.name]?.(e.data), broken)
  }
  const close = () => {
    stop?.()
    stop = null
  }
  window.addEventListener('pagehide', close)
  window.addEventListener('pageshow', open)
  open()
  return () => {
    window.removeEventListener('pagehide', close)
    window.removeEventListener('pageshow', open)
    close()
  }
}

const brokenName = ' broken' // no event is called so
const askName = ' ask'

function share(url: string, names: string[], hear: (e: Heard) => void, broken: () => void): () => void {
  const locks = (navigator as Partial<Navigator>).locks
  if (!locks) return read(url, names, hear, broken)
  const channel = new BroadcastChannel(`keencrock ${url}`)
  const done = new AbortController()
  let leading = false
  channel.onmessage = (m: MessageEvent<Heard>) => {
    if (m.data.name === brokenName) broken()
    else if (!leading && m.data.name !== askName) hear(m.data)
  }
  const tell = (e: Heard) => channel.postMessage(e)
  const lead = () =>
    new Promise<void>((resolve) => {
      leading = true
      const last = new Map<string, Heard>()
      const stop = read(
        url,
        names,
        (e) => {
          last.set(e.name, e)
          hear(e)
          tell(e)
        },
        () => {
          broken()
          tell({ name: brokenName, data: null })
        },
      )
      // who comes later hears what was said last
      const answer = (m: MessageEvent<Heard>) => {
        if (m.data.name === askName) last.forEach(tell)
      }
      channel.addEventListener('message', answer)
      done.signal.addEventListener('abort', () => {
        channel.removeEventListener('message', answer)
        stop()
        resolve()
      })
    })
  tell({ name: askName, data: null })
  locks.request(`keencrock ${url}`, { signal: done.signal }, lead).catch(() => undefined) // no longer waited for
  return () => {
    done.abort()
    channel.close()
  }
}

const again = 3000 // ms, as browsers wait before they connect again

/**
 * Reads a stream itself. A browser connects again by itself, but not after an answer that
 * is no stream, such as that of a proxy whose server is being started again.
 */
function read(url: string, names: string[], hear: (e: Heard) => void, broken: () => void): () => void {
  let source: EventSource
  let waiting: ReturnType<typeof setTimeout> | undefined
  const open = () => {
    source = new EventSource(url)
    for (const name of names)
      source.addEventListener(name, (e) =>
        hear({ name, data: JSON.parse((e as MessageEvent<string>).data) as unknown }),
      )
    source.addEventListener('error', () => {
      broken()
      if (source.readyState === EventSource.CLOSED) waiting = setTimeout(open, again)
    })
  }
  open()
  return () => {
    clearTimeout(waiting)
    source.close()
  }
}
