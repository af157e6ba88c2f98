<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import type { Site } from '#core/site'
import Choice from '../controls/Choice.vue'
import { saveOnlineGuide } from '../sites/online-guide'

/** What a real site needs before visitors can use a form, said while it is chosen, and the ways to go on today. */
const { problem, pretend } = defineProps<{
  problem: string
  /** A pretend site to try the form on meanwhile; null where none runs. */
  pretend: Site | null
}>()
const isTried = defineModel<boolean>({ required: true })
</script>

<template>
  <div class="real">
    <p>
      <b>{{ problem }}</b> You can make the form now all the same: it is kept, and its code waits until then.
    </p>
    <Choice
      v-if="pretend"
      :model-value="isTried ? 'tried' : 'later'"
      name="real-site"
      label="How to go on"
      :options="[
        { value: 'later', label: 'Make it now, put it on the site later' },
        { value: 'tried', label: 'Try it on a pretend site now' },
      ]"
      @update:model-value="isTried = $event === 'tried'"
    />
    <p v-if="pretend && isTried" class="quiet small">
      It sits on “{{ pretend.name }}”, which runs on this computer, and moves to your site by one press.
    </p>
    <ElCollapse>
      <ElCollapseItem title="How Ask Box goes online">
        <p>
          It needs a computer that is always on and has a public name, such as a small rented server. There, three
          commands set it up:
        </p>
        <pre tabindex="0" aria-label="The three commands">
sudo sh deploy/install.sh forms.example.org nginx
sudo certbot --nginx -d forms.example.org
sudo journalctl -u askbox -n 20 | grep ready</pre>
        <p>
          The last one shows an address. Open it once in this browser, and everything that you made here goes there by
          itself.
        </p>
        <ElButton size="small" @click="saveOnlineGuide">
          <Download :size="14" /><span>Save this for whoever looks after the server</span>
        </ElButton>
      </ElCollapseItem>
    </ElCollapse>
  </div>
</template>

<style scoped>
.real {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  padding: var(--gap-3);
  border-inline-start: 3px solid var(--raspberry);
  background: var(--sunken);
}
p {
  margin: 0;
}
pre {
  margin: var(--gap-2) 0;
  padding: var(--gap-3);
  overflow: auto;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  font-size: 0.8125rem;
}
</style>
