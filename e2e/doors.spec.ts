// What comes from elsewhere stays there: a page of another origin writes and reads nothing; what
// cannot be read or was set aside stops no page.
import { createServer, type Server } from 'node:http'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, openShower, test } from './house'

async function theJob(url: string): Promise<{ id: string; lastSeq: number }> {
  const { jobs } = (await (await fetch(`${url}/api/jobs`)).json()) as { jobs: { id: string; lastSeq: number }[] }
  return jobs[0]!
}

/** Tries, from a page of another origin, all ways a page has; tells what came back. */
const tries = `window.tries = async (target, job, entry) => {
  const body = JSON.stringify({ entries: [entry] })
  const out = {}
  const attempt = async (name, url, options) => {
    try {
      const answer = await fetch(url, options)
      out[name] = answer.type === 'opaque' ? 'opaque' : answer.status + ' ' + (await answer.text()).slice(0, 40)
    } catch (error) {
      out[name] = 'refused'
    }
  }
  const entries = target + '/api/jobs/' + job + '/entries'
  await attempt('plain', entries, { method: 'POST', body, headers: { 'Content-Type': 'text/plain' }, mode: 'no-cors' })
  await attempt('no type', entries, { method: 'POST', body: new Blob([body]), mode: 'no-cors' })
  await attempt('json', entries, { method: 'POST', body, headers: { 'Content-Type': 'application/json' } })
  await attempt('compute', target + '/api/compute/logbook.job', { method: 'POST', body: '{}', headers: { 'Content-Type': 'text/plain' }, mode: 'no-cors' })
  await attempt('read', target + '/api/jobs', {})
  await attempt('read opaque', target + '/api/jobs', { mode: 'no-cors' })
  navigator.sendBeacon(entries, new Blob([body], { type: 'text/plain' }))
  const load = (tag, url) => new Promise((resolve) => {
    const element = document.createElement(tag)
    element.onload = () => resolve('loaded')
    element.onerror = () => resolve('refused')
    element.src = url
    document.body.append(element)
    setTimeout(() => resolve('nothing'), 3000)
  })
  out.script = await load('script', target + '/api/jobs')
  out.image = await load('img', target + '/api/jobs')
  return out
}`

test('a page of another origin writes nothing and reads nothing', async ({ page, house, complaints }) => {
  const job = await theJob(house.url)
  const elsewhere: Server = createServer((_, answer) => {
    answer.setHeader('Content-Type', 'text/html')
    answer.end(
      `<title>Elsewhere</title><script>${tries}</script>` +
        '<form method="post" enctype="text/plain" target="hole"></form><iframe name="hole"></iframe>',
    )
  })
  await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve))
  const { port } = elsewhere.address() as { port: number }
  const entry = {
    id: '01900000-0000-7000-8000-0000000000ee',
    jobId: job.id,
    kind: 'job.renamed',
    at: '2026-03-04T12:00:00Z',
    by: '01900000-0000-7000-8000-0000000000ff',
    body: { name: 'Taken over' },
  }
  // From another port of the machine, and from another name for it.
  for (const origin of [`http://127.0.0.1:${port}`, `http://localhost:${port}`]) {
    await page.goto(origin)
    const out = await page.evaluate(
      ([target, job, entry]) =>
        (window as unknown as { tries: (...args: unknown[]) => Promise<Record<string, string>> }).tries(
          target,
          job,
          JSON.parse(entry!),
        ),
      [house.url, job.id, JSON.stringify(entry)],
    )
    expect(out).toMatchObject({ json: 'refused', read: 'refused', script: 'refused', image: 'refused' })
    for (const said of Object.values(out)) expect(said).not.toContain(job.id)
    // A form that a hidden frame sends.
    await page.evaluate(
      ([url, body]) => {
        const form = document.forms[0]!
        form.action = url!
        const field = document.createElement('input')
        field.name = body!.slice(0, body!.indexOf(':') + 1)
        field.value = body!.slice(body!.indexOf(':') + 1)
        form.append(field)
        form.submit()
      },
      [`${house.url}/api/jobs/${job.id}/entries`, JSON.stringify({ entries: [entry] })],
    )
    await page.waitForTimeout(500)
    const held = await page.evaluate(() => {
      try {
        return (document.querySelector('iframe')!.contentDocument?.body.innerText ?? 'shut') || 'empty'
      } catch {
        return 'shut'
      }
    })
    expect(held).not.toContain('results')
  }
  elsewhere.close()
  expect((await theJob(house.url)).lastSeq, 'something was written').toBe(job.lastSeq)
  complaints.length = 0 // the refusals are what this test is about
})

test('under a name that was led here nothing is served', async ({ page, house, complaints }) => {
  const url = house.url.replace('127.0.0.1', 'elsewhere.test') // the browser finds it at this machine
  for (const path of ['/', '/api/jobs', '/assets/core.wasm']) {
    const answer = await page.goto(url + path)
    expect(answer!.status(), path).toBe(421)
    expect(await answer!.text()).not.toContain('lastSeq')
  }
  complaints.length = 0
})

test('a paper opens in the browser', async ({ page, house, complaints }) => {
  const job = await theJob(house.url)
  const paper = `${house.url}/api/jobs/${job.id}/materials.pdf`
  const { headers } = await fetch(paper)
  expect(headers.get('content-security-policy')).not.toContain('sandbox')
  await page.goto(paper).catch(() => null) // the browser's own reader takes over
  await expect(() => expect(page.frames().length, 'page, reader and paper').toBe(3)).toPass()
  await page.goto('about:blank')
  await page.waitForTimeout(500)
  complaints.length = 0 // the reader looks for a picture of the site
})

/** Does something to the database of the house, as only an older program or a broken disk could. */
function atTheDatabase(folder: string, statement: string): void {
  const socket = /unix\(([^)]+)\)/.exec(readFileSync(join(folder, 'database.pid'), 'utf8'))![1]!
  execFileSync('mariadb', ['--no-defaults', `--socket=${socket}`, '-u', 'root', 'dusha', '-e', statement])
}

test('an entry that cannot be read shuts what it may concern, and stops nothing else', async ({ page, house }) => {
  const job = await theJob(house.url)
  await openShower(page, house)
  const area = /area\/([0-9a-f-]+)/.exec(page.url())![1]!
  const id = '01900000-0000-7000-8000-0000000000bb'
  // A newer Dusha keeps a kind of entry this page does not know.
  const text = JSON.stringify({
    id,
    jobId: job.id,
    areaId: area,
    kind: 'air.mapped',
    at: '2026-03-04T12:00:00Z',
    by: '01900000-0000-7000-8000-0000000000ff',
    body: { cells: 12 },
  })
  atTheDatabase(
    house.folder,
    `SET @hash = UNHEX(SHA2(CONCAT((SELECT last_hash FROM areas WHERE id = '${area}'), '${text}'), 256));
     INSERT INTO entries (id, company_id, job_id, area_id, seq, kind, at, by_person, received_at, hash, bytes)
     SELECT '${id}', company_id, id, '${area}', last_seq + 1, 'air.mapped', NOW(), '${id}', NOW(), @hash, '${text}' FROM jobs WHERE id = '${job.id}';
     UPDATE areas SET last_hash = @hash WHERE id = '${area}';
     UPDATE jobs SET last_seq = last_seq + 1 WHERE id = '${job.id}'`,
  )
  await expect(page.locator('.next')).toContainText('Not known', { timeout: 20_000 })
  await expect(page.locator('.next')).toContainText('air.mapped')
  await page.getByRole('button', { name: /deviation/ }).click()
  await expect(page.getByRole('dialog')).toContainText('Kept by a newer Dusha: air.mapped')
  await page.keyboard.press('Escape')
  // Lists and papers go on.
  await page.getByRole('link', { name: 'Jobs' }).first().click()
  await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible()
  const dossier = await page.request.get(`${house.url}/api/jobs/${job.id}/areas/${area}/dossier.pdf`)
  expect(dossier.status()).toBe(200)

  // Set aside, it is gone for everyone, and everyone is told.
  const dsn = readFileSync(join(house.folder, 'database.pid'), 'utf8').split('\n')[1]!
  execFileSync('../.build/dusha', ['quarantine', id, '--why', 'read on the other tablet', '--database', dsn])
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await expect(page.getByText('is read by nobody: read on the other tablet')).toBeVisible({ timeout: 20_000 })
  await page.getByRole('link', { name: /Shower room 1/ }).click()
  await expect(page.locator('.next')).not.toContainText('Not known')
})

test('half a character that was pasted is kept as a mark, and sent', async ({ page, house }) => {
  await page.goto(house.url)
  await page.getByRole('button', { name: /New job/ }).click()
  await page.getByLabel('Name of the job').evaluate((field: HTMLInputElement) => {
    field.value = 'Bath \ud83d'
    field.dispatchEvent(new Event('input', { bubbles: true }))
  })
  await page.getByRole('button', { name: 'Begin job' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Robin of the test')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Bath \ufffd' })).toBeVisible()
  const job = /job\/([0-9a-f-]+)/.exec(page.url())![1]!
  await expect(page.locator('.kept')).toContainText('All sent', { timeout: 30_000 })
  await expect(async () => {
    const kept = await (await fetch(`${house.url}/api/jobs/${job}/entries`)).text()
    expect(kept).toContain('Bath \ufffd')
  }).toPass()
})
