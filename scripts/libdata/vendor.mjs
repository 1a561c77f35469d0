// Writes what the program reads of the locked icon and font packages into the
// libdata folders, with licence and version beside each. Called by
// scripts/vendor-libdata; run from the repository's root.
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { gzipSync } from 'node:zlib'
import * as yaml from 'js-yaml'
import subsetFont from 'subset-font'

const packages = 'scripts/libdata/node_modules'
const require = createRequire(import.meta.url)
const json = (path) => JSON.parse(readFileSync(path, 'utf8'))
const pack = (to, data) => writeFileSync(to, gzipSync(JSON.stringify(data), { level: 9 }))

/** Writes licence and version of a package beside what was taken from it. */
function credit(name, to) {
  const from = `${packages}/${name}`
  const short = name.replace(/^@fontsource\//, '').replace(/^@/, '').replace('/', '-')
  const licence = readdirSync(from).find((file) => /^(nro_)?licen[cs]e/i.test(file))
  cpSync(`${from}/${licence}`, `${to}/${short}.LICENSE`)
  const about = json(`${from}/package.json`)
  const terms = about.license ?? about.licenses[0].type
  writeFileSync(`${to}/${short}.VERSION`, `${about.name} ${about.version} (${terms})\n`)
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

/** The same fonts for drawing with: what is there of Latin letters, and the rest of them, unpacked but for gzip. */
async function drawingFonts(to, faces) {
  fresh(to)
  for (const [family, weights] of Object.entries(faces)) {
    for (const weight of weights) {
      for (const [part, letters] of [['latin', PLAIN + ACCENTS], ['latin-ext', MORE_LATIN]]) {
        const from = readFileSync(`${packages}/@fontsource/${family}/files/${family}-${part}-${weight}-normal.woff2`)
        const data = await subsetFont(from, letters, { targetFormat: 'sfnt' })
        writeFileSync(`${to}/${family}-${weight}-${part}.ttf.gz`, gzipSync(data, { level: 9 }))
      }
    }
    credit(`@fontsource/${family}`, to)
  }
  console.log(`${to}: ${Object.keys(faces).length} families`)
}
/** Latin letters of Europe beyond those of its west. */
const MORE_LATIN = between(0x100, 0x17f) + between(0x218, 0x21b) + between(0x1e80, 0x1e85) + '\u1e9e'

/** What two writings of one name have in common. Kept in step with internal/core/source. */
const plain = (name) => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')

/** The alternatives of a pattern that a linear-time engine can run: those that do not look around. */
function linear(pattern) {
  const alternatives = pattern.split(/\|(?=\()/)
  return alternatives.filter((each) => !/\(\?[=!<]/.test(each)).join('|')
}

/** A product with a version (RFC 9110 s10.1.5) that a pattern of plain words matches. */
function product(pattern) {
  const words = pattern.split('|')[0].replace(/\\b|[()]/g, '').replace(/\[\\w_\]\+/, 'AN').replaceAll('\\/', '/')
  return words.includes('/') ? `${words}1.0` : `${words}/1.0`
}

/**
 * Networks with their hosts, the marks of their apps' browsers in user agents,
 * and a user agent of each app: a real one where there is one, otherwise a real
 * phone's with the mark after it.
 */
async function networks(to, agentsTo) {
  fresh(to)
  const found = new Map()
  const network = (name, medium) => {
    if (!found.has(plain(name))) found.set(plain(name), { name, medium, hosts: [] })
    return found.get(plain(name))
  }
  const referers = yaml.load(readFileSync(`${packages}/referer-parser/data/referers.yml`, 'utf8'))
  for (const medium of ['social', 'email', 'search', 'unknown']) {
    for (const [name, { domains }] of Object.entries(referers[medium])) {
      // A host with a path is a part of a site; a referrer has no path here.
      network(name, medium).hosts.push(...domains.filter((domain) => !domain.includes('/') && /\../.test(domain.replace(/^www\./, ''))))
    }
  }
  credit('referer-parser', to)
  for (const { provider_name: name, provider_url: address } of json(`${packages}/oembed-providers/providers.json`)) {
    const host = new URL(address).hostname.replace(/^www\./, '')
    network(name, 'media').hosts.push(...(host.includes('.') ? [host] : []))
  }
  credit('oembed-providers', to)

  const spy = readFileSync(`${packages}/inapp-spy/dist/index.mjs`, 'utf8')
  const listed = new Function(`return ${/var appNameRegExps = (\{[\s\S]*?\n\});/.exec(spy)[1]}`)()
  credit('inapp-spy', to)
  const seen = json(`${packages}/user-agents/dist/user-agents.json`)
  const phone = seen.find((each) => each.deviceCategory === 'mobile' && /iPhone/.test(each.userAgent)).userAgent
  const apps = Object.values(listed).map(({ regex, name }) => {
    const pattern = `(?i)${linear(regex.source)}`
    const real = seen.find((each) => regex.test(each.userAgent))?.userAgent
    return { network: network(name, 'app').name, pattern, sample: real ?? `${phone} ${product(linear(regex.source))}` }
  })
  const all = [...found.values()].map((each) => ({ ...each, hosts: [...new Set(each.hosts)].sort() }))
  writeFileSync(`${to}/networks.json`, lines(all))
  writeFileSync(`${to}/apps.json`, lines(apps))
  console.log(`${to}: ${all.length} networks, ${apps.length} apps`)

  // Real browsers to hold the rules against; the program itself does not carry them.
  const devices = new Map(seen.map((each) => [each.userAgent, each.deviceCategory]))
  pack(`${agentsTo}/browsers.json.gz`, [...devices].map(([agent, device]) => ({ agent, device })))
  credit('user-agents', agentsTo)
}

/** A list as JSON, an entry a line, so that a new version is a readable change. */
const lines = (list) => `[\n${list.map((each) => JSON.stringify(each)).join(',\n')}\n]\n`

/** Passwords that many people have. */
function passwords(to) {
  fresh(to)
  const common = json(`${packages}/@zxcvbn-ts/language-common/src/passwords.json`)
  const list = [...new Set(common.map((each) => each.toLowerCase()))].sort()
  writeFileSync(`${to}/common.txt.gz`, gzipSync(list.join('\n') + '\n', { level: 9 }))
  credit('@zxcvbn-ts/language-common', to)
  console.log(`${to}: ${list.length} passwords`)
}

/** The country of every network that is given out. */
function countries(to) {
  fresh(to)
  const table = readFileSync(`${packages}/@ip-location-db/geo-whois-asn-country-mmdb/geo-whois-asn-country.mmdb`)
  writeFileSync(`${to}/countries.mmdb.gz`, gzipSync(table, { level: 9 }))
  credit('@ip-location-db/geo-whois-asn-country-mmdb', to)
  console.log(`${to}: ${table.length} bytes`)
}

/** How dates and times are written in the languages that visitors are spoken to in (Unicode CLDR). */
function dates(to, locales) {
  fresh(to)
  const taken = locales.map((locale) => {
    const about = json(`${packages}/cldr-dates-full/main/${locale}/ca-gregorian.json`).main[locale]
    const { months, days, dayPeriods, dateFormats, timeFormats, ...rest } = about.dates.calendars.gregorian
    const week = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat']
    return {
      locale,
      months: Object.values(months.format.wide),
      days: week.map((day) => days.format.wide[day]),
      am: dayPeriods.format.abbreviated.am,
      pm: dayPeriods.format.abbreviated.pm,
      full: dateFormats.full,
      time: timeFormats.short,
      at: rest['dateTimeFormats-atTime'].standard.full,
    }
  })
  writeFileSync(`${to}/dates.json`, lines(taken))
  credit('cldr-dates-full', to)
  console.log(`${to}: ${taken.length} locales`)
}

/** Where to ask for the player of a film or a sound (oEmbed), by patterns of addresses. */
function players(to) {
  fresh(to)
  const all = json(`${packages}/oembed-providers/providers.json`).flatMap(({ provider_name: name, provider_url: site, endpoints }) =>
    endpoints
      .filter(({ schemes }) => schemes?.length)
      .map(({ url, schemes }) => ({ name, site, endpoint: url.replaceAll('{format}', 'json'), patterns: schemes })),
  )
  writeFileSync(`${to}/providers.json`, lines(all))
  credit('oembed-providers', to)
  console.log(`${to}: ${all.length} endpoints`)
}

players('internal/core/oembed/libdata')
dates('internal/core/locale/libdata', [
  'ar', 'de', 'en', 'en-GB', 'es', 'fr', 'he', 'it', 'ja', 'nl', 'pl', 'pt', 'pt-PT', 'tr',
])
countries('internal/countries/libdata')
icons('internal/icons/libdata')
passwords('internal/passwords/libdata')
await networks('internal/networks/libdata', 'internal/agents/libdata')
const FACES = {
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
}
await fonts('internal/fonts/libdata', FACES)
await drawingFonts('internal/sharing/libdata', FACES)
