// Writes what the program reads of the locked icon and font packages into the
// libdata folders, with licence and version beside each. Called by
// scripts/vendor-libdata; run from the repository's root.
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { gzipSync } from 'node:zlib'
import subsetFont from 'subset-font'

const packages = 'scripts/libdata/node_modules'
const require = createRequire(import.meta.url)
const json = (path) => JSON.parse(readFileSync(path, 'utf8'))
const pack = (to, data) => writeFileSync(to, gzipSync(JSON.stringify(data), { level: 9 }))

/** Writes licence and version of a package beside what was taken from it. */
function credit(name, to) {
  const from = `${packages}/${name}`
  const short = name.replace(/^@fontsource\//, '')
  const licence = readdirSync(from).find((file) => /^licen[cs]e/i.test(file))
  cpSync(`${from}/${licence}`, `${to}/${short}.LICENSE`)
  const about = json(`${from}/package.json`)
  writeFileSync(`${to}/${short}.VERSION`, `${about.name} ${about.version} (${about.license})\n`)
}

function fresh(to) {
  rmSync(to, { recursive: true, force: true })
  mkdirSync(to, { recursive: true })
}

function icons(to) {
  fresh(to)
  const { titleToSlug } = require('simple-icons/sdk')
  const marks = json(`${packages}/simple-icons/data/simple-icons.json`).map((icon) => {
    const slug = icon.slug ?? titleToSlug(icon.title)
    const drawing = readFileSync(`${packages}/simple-icons/icons/${slug}.svg`, 'utf8')
    return {
      name: slug,
      title: icon.title,
      words: [...(icon.aliases?.aka ?? []), ...(icon.aliases?.dup ?? []).map((each) => each.title)],
      hex: icon.hex.toLowerCase(),
      site: new URL(icon.source).hostname.replace(/^www\./, ''),
      draws: /<path d="([^"]+)"/.exec(drawing)[1],
    }
  })
  pack(`${to}/marks.json.gz`, marks)
  credit('simple-icons', to)

  const tags = json(`${packages}/lucide-static/tags.json`)
  const signs = Object.entries(json(`${packages}/lucide-static/icon-nodes.json`)).map(([name, nodes]) => ({
    name,
    title: name.replaceAll('-', ' '),
    words: tags[name] ?? [],
    draws: nodes
      .map(
        ([element, attributes]) =>
          `<${element}${Object.entries(attributes)
            .map(([key, value]) => ` ${key}="${value}"`)
            .join('')}/>`,
      )
      .join(''),
  }))
  pack(`${to}/signs.json.gz`, signs)
  credit('lucide-static', to)

  // Hosts of profiles to hold the look-up against: sites that marks were taken
  // from, the plain and the "www." form.
  const timesSeen = (site) => marks.filter((mark) => mark.site.endsWith(site)).length
  const hosts = marks.filter(
    ({ name, site }) => site === `${name}.com` && timesSeen(site) === 1 && name.length > 6,
  )
  writeFileSync(
    `${to}/hosts.json`,
    JSON.stringify(
      Object.fromEntries(
        hosts.filter((_, i) => i % 25 === 0).flatMap(({ name }) => [[`${name}.com`, name], [`www.${name}.com`, name], [`someone.${name}.com`, name], [`${name}.net`, name]]),
      ),
      null,
      1,
    ),
  )
  console.log(`${to}: ${marks.length} marks, ${signs.length} signs`)
}

/** Slices of a font, so that a page loads only those its text needs. Kept in step with internal/fonts. */
const between = (low, high) =>
  String.fromCodePoint(...Array.from({ length: high - low + 1 }, (_, i) => low + i))
const PLAIN = between(0x20, 0x7e) + '\u00a0\u00b7\u2013\u2014\u2018\u2019\u201c\u201d\u2022\u2026\u20ac\u00a3'
const ACCENTS = between(0xa1, 0xff).replace(/[\u00b7\u00a3]/g, '') + '\u0131\u0152\u0153\u02c6\u02dc\u201a\u201e\u2039\u203a\u2122\u2212'

async function fonts(to, faces) {
  fresh(to)
  for (const [family, weights] of Object.entries(faces)) {
    for (const weight of weights) {
      const file = (part) =>
        readFileSync(`${packages}/@fontsource/${family}/files/${family}-${part}-${weight}-normal.woff2`)
      const slices = { plain: [file('latin'), PLAIN], accents: [file('latin'), ACCENTS] }
      for (const [slice, [from, text]] of Object.entries(slices)) {
        writeFileSync(`${to}/${family}-${weight}-${slice}.woff2`, await subsetFont(from, text, { targetFormat: 'woff2' }))
      }
      cpSync(
        `${packages}/@fontsource/${family}/files/${family}-latin-ext-${weight}-normal.woff2`,
        `${to}/${family}-${weight}-ext.woff2`,
      )
    }
    credit(`@fontsource/${family}`, to)
  }
  console.log(`${to}: ${Object.keys(faces).length} families`)
}

icons('internal/icons/libdata')
await fonts('internal/fonts/libdata', {
  archivo: [400, 600, 700],
  bitter: [700],
  'bricolage-grotesque': [700],
  'patrick-hand': [400],
  'dm-sans': [400, 600],
  'dm-serif-display': [400],
  fraunces: [700],
  'ibm-plex-mono': [400, 600],
  'ibm-plex-sans': [400, 600],
  karla: [400, 600],
  'libre-franklin': [400, 600],
  lora: [400, 600, 700],
  manrope: [400, 600],
  nunito: [400, 600],
  'playfair-display': [700],
  'source-sans-3': [400, 600],
  'space-grotesk': [400, 600, 700],
  syne: [700],
  'work-sans': [400, 600],
  'zilla-slab': [700],
})
