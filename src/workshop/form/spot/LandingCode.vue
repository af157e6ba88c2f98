<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch, watchEffect } from 'vue'
import { fileName, pageAddress, pageFile } from '#core/embed'
import type { Version } from '#core/form'
import { dataAddress } from '#core/picture'
import { slugSchema, type Spot } from '#core/spot'
import { handToDownloads } from '../../controls'
import Labelled from '../../controls/Labelled.vue'
import TypedInput from '../../controls/TypedInput.vue'
import { useWorkspace } from '../../data'
import LinkCode from './LinkCode.vue'

/** A page of its own: its address, made readable; its QR code; the page as a file. */
const { spot, version, receiver } = defineProps<{ spot: Spot; version: Version; receiver: string }>()
const emit = defineEmits<{ slug: [slug: string | undefined] }>()
const workspace = useWorkspace()

const address = computed(() => pageAddress(receiver, spot.slug ?? spot.id))
const refused = ref<string | null>(null)
const problem = ref<string | null>(null)
function setSlug(text: string): void {
  const slug = text.trim()
  const isTaken = workspace.spots.some((one) => one.slug === slug && one.id !== spot.id)
  const isWrong = slug !== '' && !slugSchema.safeParse(slug).success
  problem.value = isWrong
    ? 'Small letters, digits and single hyphens, such as star-chart.'
    : isTaken
      ? 'Another page has this address.'
      : null
  refused.value = problem.value === null ? null : text
  if (problem.value === null) emit('slug', slug === '' ? undefined : slug)
}

const modules = shallowRef<boolean[][]>([])
watchEffect(async () => {
  const shown = address.value
  const { qrModules } = await import('#core/qr')
  modules.value = qrModules(shown)
})

async function saveSvg(): Promise<void> {
  const { qrSvg } = await import('#core/qr')
  const svg = qrSvg(address.value, address.value)
  handToDownloads({ blob: new Blob([svg], { type: 'image/svg+xml' }), name: `${fileName(spot)}-qr.svg` })
}

const DOT_PX = 16
const canvas = ref<HTMLCanvasElement | null>(null)
/** Drawn as large as it is saved: sharp on paper, too. */
watch(
  [modules, canvas],
  ([rows, into]) => {
    if (into === null || rows.length === 0) return
    into.width = into.height = (rows.length + 8) * DOT_PX
    const pen = into.getContext('2d')!
    pen.fillStyle = '#fff'
    pen.fillRect(0, 0, into.width, into.height)
    pen.fillStyle = '#000'
    for (const [y, row] of rows.entries())
      for (const [x, isDark] of row.entries())
        if (isDark) pen.fillRect((x + 4) * DOT_PX, (y + 4) * DOT_PX, DOT_PX, DOT_PX)
  },
  { flush: 'post' },
)
function savePng(): void {
  canvas.value?.toBlob((blob) => blob && handToDownloads({ blob, name: `${fileName(spot)}-qr.png` }))
}

function saveFile(): void {
  const dataOf = (id: string) => {
    const picture = workspace.pictures.find((one) => one.id === id)
    return picture && dataAddress(picture)
  }
  const html = pageFile({ spot, version, site: workspace.site(spot.site), receiver }, dataOf)
  handToDownloads({ blob: new Blob([html], { type: 'text/html' }), name: `${fileName(spot)}.html` })
}
</script>

<template>
  <div class="landing">
    <Labelled
      label="Its address ends with"
      :problem="problem"
      hint="Readable, for print and for speech. The address with the long end goes on working."
    >
      <TypedInput
        :value="refused ?? spot.slug ?? ''"
        :is-refused="refused !== null"
        :placeholder="spot.id"
        maxlength="60"
        @change="setSlug"
      />
    </Labelled>
    <LinkCode :content="version.content" :address="address" />
    <div class="row print">
      <canvas ref="canvas" role="img" :aria-label="`QR code of ${address}`" />
      <div>
        <h3>For paper</h3>
        <p class="quiet small">Phones open the page from this QR code.</p>
        <div class="row">
          <ElButton @click="saveSvg"><Download :size="16" /><span>SVG</span></ElButton>
          <ElButton @click="savePng"><Download :size="16" /><span>PNG</span></ElButton>
        </div>
      </div>
      <div>
        <h3>As a file</h3>
        <p class="quiet small">The whole page in one file, to put anywhere. It shows version {{ version.number }}.</p>
        <ElButton @click="saveFile"><Download :size="16" /><span>HTML</span></ElButton>
      </div>
    </div>
  </div>
</template>

<style scoped>
.landing {
  display: grid;
  gap: var(--gap-3);
  min-width: 0;
}
.print {
  align-items: start;
  flex-wrap: wrap;
  gap: var(--gap-4);
}
.print > div {
  flex: 1 1 180px;
}
.print p {
  margin: 0 0 var(--gap-1);
}
canvas {
  width: 132px;
  height: 132px;
  border: 1px solid var(--hairline);
}
</style>
