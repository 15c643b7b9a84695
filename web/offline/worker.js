/* What stays at hand where the server is away: the program itself, and machines whose card is open. The build fills SHELL in. */
const SHELL = __SHELL__
const PROGRAM = `miser-program-${SHELL.version}`
const MACHINES = 'miser-machines'
/** Looks at one job, and what every screen asks for first. */
const KEPT = [
  /^\/api\/jobs\/[\w-]+$/,
  /^\/api\/jobs\/[\w-]+\/(stages\/(fit|function)|attachments\/[\w-]+)$/,
  /^\/api\/(reference|me|shop)$/,
]

self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(PROGRAM).then((cache) => cache.addAll(SHELL.files)))
  self.skipWaiting()
})

self.addEventListener('activate', (event) => {
  const others = (names) => names.filter((name) => name.startsWith('miser-program-') && name !== PROGRAM)
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  )
})

/** A page says which addresses its card needs; whoever signs out takes them along. */
self.addEventListener('message', (event) => {
  const { keep, forget } = event.data ?? {}
  const answered = () => event.ports[0]?.postMessage('done')
  if (forget) event.waitUntil(caches.delete(MACHINES).then(answered))
  if (keep) event.waitUntil(Promise.allSettled(keep.map((url) => kept(new Request(url)))).then(answered))
})

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== self.location.origin) return
  if (request.mode === 'navigate') event.respondWith(page(request))
  else if (SHELL.files.includes(url.pathname)) event.respondWith(program(request))
  else if (KEPT.some((address) => address.test(url.pathname)) && !url.searchParams.has('at')) event.respondWith(kept(request))
})

async function page(request) {
  try {
    return await fetch(request)
  } catch (away) {
    const shell = await caches.match('/', { cacheName: PROGRAM })
    if (shell) return shell
    throw away
  }
}

async function program(request) {
  return (await caches.match(request, { cacheName: PROGRAM })) ?? fetch(request)
}

/** So many answers are kept, the latest of them. */
const MOST = 400
async function remember(cache, request, answer) {
  await cache.delete(request)
  await cache.put(request, answer)
  const all = await cache.keys()
  await Promise.all(all.slice(0, Math.max(0, all.length - MOST)).map((old) => cache.delete(old)))
}

/** As the server has it; where it is away, as it was last seen. */
async function kept(request) {
  const cache = await caches.open(MACHINES)
  try {
    const answer = await fetch(request)
    if (answer.status === 401) await caches.delete(MACHINES)
    else if (answer.ok) await remember(cache, request, answer.clone())
    return answer
  } catch (away) {
    const there = (await cache.match(request)) ?? (await cache.match(request, { ignoreSearch: true }))
    if (there) return there
    throw away
  }
}
