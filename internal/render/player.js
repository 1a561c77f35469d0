/* Loads the player of a film in place of its picture, once it is pressed, and tells that it was
   (Beacon, W3C). Without it the press leads to the page of the film. */
for (const link of document.querySelectorAll('[data-frame]')) {
  link.onclick = (event) => {
    if (event.ctrlKey || event.metaKey || event.shiftKey) return
    event.preventDefault()
    const frame = document.createElement('iframe')
    frame.sandbox = 'allow-scripts allow-same-origin allow-presentation allow-popups'
    frame.allow = 'autoplay; encrypted-media; fullscreen; picture-in-picture'
    frame.title = link.querySelector('.title').textContent
    frame.src = link.dataset.frame
    const box = document.createElement('div')
    box.className = link.className
    link.replaceWith(box)
    link.querySelector('.screen').remove()
    link.onclick = null
    box.append(frame, link)
    link.className = ''
    frame.focus()
    if (link.dataset.told) navigator.sendBeacon(link.dataset.told)
  }
}
