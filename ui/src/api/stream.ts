/**
 * Follows a stream of server-sent events. Returns how to stop.
 *
 * A page that the browser sets aside for the Back button lets its connection
 * go, since a browser has only six for one server, and takes it up again when
 * it is shown.
 */
export function followStream(
  url: string,
  heard: Record<string, (data: unknown) => void>,
  broken: () => void = () => undefined,
): () => void {
  let source: EventSource | null = null
  const open = () => {
    if (source) return
    source = new EventSource(url)
    for (const [name, hear] of Object.entries(heard))
      source.addEventListener(name, (e) => hear(JSON.parse((e as MessageEvent<string>).data)))
    source.addEventListener('error', broken)
  }
  const close = () => {
    source?.close()
    source = null
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
