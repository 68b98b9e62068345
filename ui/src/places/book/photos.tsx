import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { fieldRow } from '../../kit/looks'
import { showError } from '../../shell/message'
import { answerOf, server } from '../../wire/client'
import { dateTime } from './when'

/** The longer side of a photo as it is kept, pixels. */
const longest = 1280

/** A photo as it is kept: upright, no larger than needed, and without the place that cameras write into it. */
async function smaller(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
    throw new Error('That is not a picture this browser can read.')
  })
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height))
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(picture.width * scale)), Math.max(1, Math.round(picture.height * scale)))
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 })
}

/** Photos with a few words each. They are kept without the place that cameras write into them. */
export function Photos({ id }: { id: number }) {
  const queries = useQueryClient()
  const list = useQuery({ queryKey: ['photos', id], queryFn: () => answerOf(server.GET('/api/quads/{id}/photos', { params: { path: { id } } })) })
  const picker = useRef<HTMLInputElement>(null)
  const [note, setNote] = useState('')
  const add = useMutation({
    mutationFn: async (file: File) => {
      const bytes = new Uint8Array(await (await smaller(file)).arrayBuffer())
      let text = ''
      for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
      return answerOf(server.POST('/api/quads/{id}/photos', { params: { path: { id } }, body: { picture: btoa(text), note } }))
    },
    onSuccess: (rows) => {
      queries.setQueryData(['photos', id], rows)
      setNote('')
    },
    onError: showError,
  })
  return (
    <section aria-label="Photos">
      <Subhead>Photos</Subhead>
      <div className={fieldRow}>
        <label style={{ flex: '1 1 160px' }}>
          What it shows
          <input type="text" value={note} maxLength={190} onChange={(e) => setNote(e.target.value)} style={{ width: '100%' }} />
        </label>
        <Button small disabled={add.isPending} onClick={() => picker.current?.click()}>
          {add.isPending ? 'Keeping it…' : 'Choose a photo'}
        </Button>
        <input
          ref={picker}
          type="file"
          accept="image/jpeg,image/png"
          hidden
          aria-label="Photo"
          onChange={(e) => {
            const file = e.target.files?.[0]
            if (file) add.mutate(file)
            e.target.value = ''
          }}
        />
      </div>
      <ul className="mt-2 flex flex-wrap gap-3 [&_img]:h-29.5 [&_img]:w-42 [&_img]:rounded-md [&_img]:bg-sunk [&_img]:object-cover [&_li]:grid [&_li]:w-42 [&_li]:gap-1 [&_li]:text-[14px]">
        {(list.data ?? []).map((p) => (
          <li key={p.id}>
            <img src={`/api/quads/${id}/photos/${p.id}`} alt={p.note || 'A photo without words'} loading="lazy" />
            <span>
              {p.note} <span className="text-soft">{dateTime(p.at)}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
