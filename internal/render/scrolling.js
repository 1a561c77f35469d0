/* Tells once, as the page is left, which block was the furthest down that was on screen (Intersection Observer and Beacon,
   W3C). It tells of nobody who asks not to be watched (Global Privacy Control), and of no page that is loaded again.
   What is told once is no number any more, and stays none. */
if (!navigator.globalPrivacyControl && performance.getEntriesByType('navigation')[0]?.type == 'navigate') {
  const all = [...document.querySelectorAll('[data-block]')]
  let low = -1
  const eye = new IntersectionObserver(
    (now) => now.forEach((it) => it.isIntersecting && (low = Math.max(low, all.indexOf(it.target)))),
    { rootMargin: '-30px' },
  )
  all.forEach((it) => eye.observe(it))
  addEventListener('visibilitychange', () => {
    if (document.hidden && low >= 0) {
      navigator.sendBeacon(document.querySelector('.blocks').dataset.tell, new URLSearchParams(all[low].dataset))
      low = NaN
    }
  })
}
