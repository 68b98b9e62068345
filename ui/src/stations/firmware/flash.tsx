import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { two } from '../../kit/looks'
import { Bar } from '../../kit/progress'
import { Choice, Choices } from '../../kit/radio'
import { useOwnBench } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, bench, checkImage, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { imageText } from '../../wire/image-file'
import { useLive } from '../../wire/live'
import type { Controller } from './board'

/** An image, what it is for and what a step to it means; then written, to the board or to one speed controller. */
export function Flash({ quad, controllers }: { quad: QuadAt<'firmware'>; controllers: Controller[] }) {
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<Schemas['ImageView'] | null>(null)
  const [wrong, setWrong] = useState('')
  const [whole, setWhole] = useState(false)
  const flash = useAct(quad.id, (output: string) => acts.flash(quad.id, { text, whole: whole && !output, output: output || undefined }))
  const usb = useOwnBench((s) => s.live?.usb ?? false)
  const pack = useOwnBench((s) => s.live?.pack ?? false)
  const boot = useLive((s) => s.live?.board === 'bootloader')
  const pick = async (f?: File) => {
    setSeen(null)
    setWrong('')
    if (!f) return
    try {
      const t = await imageText(f)
      setText(t)
      const v = await checkImage(quad.id, t)
      setSeen(v)
      setWhole(v.whole)
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  const run = (output: string) => flash.mutate(output, { onError: showError })
  return (
    <div className={two}>
      <section aria-label="Firmware image">
        <input
          type="file"
          accept=".hex,text/plain"
          style={{ width: '100%' }}
          aria-label="Choose an Intel HEX image"
          onChange={(e) => void pick(e.target.files?.[0])}
        />
        {wrong && (
          <p role="alert" className="text-stop">
            {wrong}
          </p>
        )}
        {seen ? (
          <>
            <p className="my-2.5">
              <b>
                {seen.line} {seen.version}
              </b>{' '}
              for <b>{seen.target}</b>
              <br />
              <span className="text-soft">
                {seen.bytes.toLocaleString('en-GB')} bytes{seen.gaps > 0 && `, ${seen.gaps} ${seen.gaps === 1 ? 'gap' : 'gaps'}`}, CRC-32 {seen.crc}
              </span>
              <br />
              <b className={seen.fits ? 'text-ok' : 'text-stop'}>{seen.says}</b>
            </p>
            {seen.fits && seen.with.length > 0 && (
              <>
                <Subhead>Along with it</Subhead>
                <ul className="list-disc pl-4.5">
                  {seen.with.map((w) => (
                    <li key={w}>{w}</li>
                  ))}
                </ul>
              </>
            )}
          </>
        ) : (
          <p className="text-soft">
            Choose an image for {quad.meant.parts.board.target}, or for its speed controllers. It is checked before anything is erased.
          </p>
        )}
      </section>
      <section aria-label="Flash">
        {seen?.fits && !seen.speed && (
          <div className="mb-2.5">
            <Subhead>The settings on the board</Subhead>
            <Choices
              label="The settings on the board"
              value={whole ? 'erase' : 'keep'}
              onChoose={(v) => setWhole(v === 'erase')}
              className="flex flex-wrap gap-x-4"
            >
              <Choice value="keep">Keep them</Choice>
              <Choice value="erase">Erase them too</Choice>
            </Choices>
            <p className="text-soft">{seen.wholeWhy}</p>
          </div>
        )}
        {seen?.speed ? (
          <>
            <p>One after the other: flash one, see it answer, then the next. Pack in, propellers off.</p>
            <div className="flex flex-wrap items-center gap-2.5">
              {controllers.map((c) => (
                <Button key={c.output} disabled={!seen.fits || !usb || !pack || flash.isPending} onClick={() => run(c.output)}>
                  Flash {c.output}
                </Button>
              ))}
            </div>
          </>
        ) : (
          <div className="flex flex-wrap items-center gap-2.5">
            <Button main disabled={!seen?.fits || !usb || flash.isPending} onClick={() => run('')}>
              {boot ? 'Flash again' : 'Flash the board'}
            </Button>
            <span className="text-soft">{usb ? 'Props off. What is on it is saved first.' : 'Plug USB in (b opens the bench).'}</span>
          </div>
        )}
        <Progress running={flash.isPending} />
        {boot && !flash.isPending && (
          <p className="text-fix">The board waits in its bootloader. What it held is saved; choose the image and flash again: it goes on where it ended.</p>
        )}
      </section>
    </div>
  )
}

const words: Record<string, string> = {
  saving: 'Saving what is there',
  erasing: 'Erasing',
  writing: 'Writing',
  verifying: 'Reading back and comparing',
  restarting: 'Restarting',
  done: 'Done.',
  stopped: '',
  failed: '',
}

function Progress({ running }: { running: boolean }) {
  const step = useLive((s) => s.flash?.step ?? '')
  const output = useLive((s) => s.flash?.output ?? '')
  const percent = useLive((s) => Math.round(s.flash?.percent ?? 0))
  const says = useLive((s) => s.flash?.says ?? '')
  const left = useLive((s) => Math.ceil(s.flash?.left ?? 0))
  const resumed = useLive((s) => s.flash?.resumed ?? false)
  const under = !['', 'done', 'failed', 'stopped'].includes(step)
  if (!step) return null
  return (
    <div role="status" className="mt-3">
      {(under || step === 'done') && <Bar percent={percent} label="Flash" />}
      <p>
        {words[step]}
        {output && under ? `, speed controller ${output}` : ''}
        {under ? `, ${percent} %` : ''}
        {left > 0 && step === 'writing' ? `, ${left} s left` : ''}
        {resumed && under ? ', going on where it ended' : ''} <b className={step === 'failed' ? 'text-stop' : step === 'stopped' ? 'text-fix' : ''}>{says}</b>
      </p>
      {running && under && (
        <Button small onClick={() => void bench.stopFlash().catch(showError)}>
          Stop
        </Button>
      )}
    </div>
  )
}
