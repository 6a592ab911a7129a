<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'

import type { Of } from '../../api/batch'
import { asJpeg, base64Of } from '../../parts/photo'
import { sentence } from '../../words'

// A photo into the log: taken, looked at, kept. On a phone the camera opens.
const props = defineProps<{ of: Of }>()

const picker = ref<HTMLInputElement>()
const taken = ref('')
const shows = ref('')
const wrong = ref('')

async function take() {
  const file = picker.value?.files?.[0]
  if (!file) return
  wrong.value = taken.value = ''
  try {
    taken.value = await asJpeg(file)
  } catch (e) {
    wrong.value = sentence(e)
  }
  if (picker.value) picker.value.value = '' // the same one can be chosen again
}

function keep() {
  const body = { jpeg: base64Of(taken.value), text: shows.value.trim() || undefined }
  props.of.picture.mutate(body, {
    onSuccess: () => {
      taken.value = shows.value = ''
    },
  })
}
</script>

<template>
  <div class="photo">
    <input
      ref="picker"
      class="unseen"
      type="file"
      name="photo"
      accept="image/*"
      capture="environment"
      tabindex="-1"
      aria-hidden="true"
      @change="take"
    />
    <Button v-if="!taken" class="tall" @click="picker?.click()">Add a photo</Button>
    <p v-if="wrong" class="bad small" role="alert">{{ wrong }}</p>
    <form v-if="taken" @submit.prevent="keep">
      <img :src="taken" alt="The photo as it will stand in the log" />
      <label>
        <span class="field-label">What it shows, if anything</span>
        <input v-model="shows" class="plain-field" name="photo-shows" maxlength="200" />
      </label>
      <div class="acts">
        <Button class="tall" type="primary" html-type="submit" :loading="of.picture.isPending.value">
          Keep it in the log
        </Button>
        <Button class="tall" @click="taken = ''">Not this one</Button>
      </div>
    </form>
  </div>
</template>

<style scoped>
.photo {
  margin-bottom: 8px;
  position: relative;
}

.tall {
  min-height: 44px;
}

form img {
  border-radius: var(--corner);
  display: block;
  margin-bottom: 6px;
  max-height: 220px;
  max-width: 100%;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
</style>
