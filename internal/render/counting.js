/* Counts clicks on plain addresses where the browser sends no ping (Beacon, W3C). The ping is put
   off for the click, so that there is one of the two. */
for (const kind of ['click', 'auxclick'])
  addEventListener(kind, (event) => {
    const link = event.target.closest('a[ping]')
    if (!link || event.button > 1) return
    const to = link.getAttribute('ping')
    if (!navigator.sendBeacon(to)) return
    link.removeAttribute('ping')
    setTimeout(() => link.setAttribute('ping', to))
  })
