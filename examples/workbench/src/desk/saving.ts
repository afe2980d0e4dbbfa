/** Gives a file to the one who sits before the page: the browser asks where to, or puts it with the downloads. */
export function saveFile(name: string, content: string | Blob, type: string): Promise<void> {
  const url = URL.createObjectURL(typeof content === 'string' ? new Blob([content], { type }) : content)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  // The browser takes it up in its own time.
  window.setTimeout(() => {
    URL.revokeObjectURL(url)
  }, 10_000)
  return Promise.resolve()
}

/** A drawing as a picture of pixels, twice as fine as it is drawn. */
export async function pngOf(svg: string): Promise<Blob> {
  const image = new Image()
  image.src = `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = image.naturalWidth * 2
  canvas.height = image.naturalHeight * 2
  const context = canvas.getContext('2d')
  if (!context) throw new Error('This browser cannot draw the picture.')
  context.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((done, failed) => {
    canvas.toBlob((blob) => {
      if (blob) done(blob)
      else failed(new Error('This browser cannot draw the picture.'))
    }, 'image/png')
  })
}

/** The files of what was dropped, those in folders among them. */
export async function droppedFiles(transfer: DataTransfer): Promise<{ name: string; file: File }[]> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry() ?? [])
  if (entries.length === 0) return [...transfer.files].map((file) => ({ name: file.name, file }))
  const found: { name: string; file: File }[] = []
  for (const entry of entries) await gather(entry, '', found)
  return found
}

async function gather(entry: FileSystemEntry, folder: string, found: { name: string; file: File }[]): Promise<void> {
  if (found.length > 2000) return
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => {
      ;(entry as FileSystemFileEntry).file(done, failed)
    })
    found.push({ name: folder + entry.name, file })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => {
      reader.readEntries(done, failed)
    })
    if (some.length === 0) return
    for (const one of some)
      if (!one.name.startsWith('.') && one.name !== 'node_modules') await gather(one, `${folder}${entry.name}/`, found)
  }
}
