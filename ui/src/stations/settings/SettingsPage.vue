<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useRoute } from 'vue-router'

import { canMake, isOwner, session, signOut } from '../../api/session'
import AuditList from './AuditList.vue'
import BringIn from './BringIn.vue'
import KeySwitch from './KeySwitch.vue'
import PasswordForm from '../../door/PasswordForm.vue'
import PeopleList from './PeopleList.vue'
import ReachPanel from './ReachPanel.vue'
import SecondFactor from './SecondFactor.vue'
import SessionList from './SessionList.vue'
import StandInSwitch from './StandInSwitch.vue'
import WorkshopForm from './WorkshopForm.vue'

const route = useRoute()
</script>

<template>
  <div class="settings">
    <h1>Settings</h1>
    <template v-if="route.params.view === 'sheets'">
      <p><RouterLink to="/settings">All settings</RouterLink></p>
      <BringIn v-if="canMake" />
    </template>
    <div v-else class="columns">
      <div>
        <WorkshopForm />
        <ReachPanel />
        <section v-if="canMake" aria-labelledby="sheets">
          <h2 id="sheets">Sheets of your own</h2>
          <p class="soft">
            Formulas, materials, lots, jars, orders, sales and people from a spreadsheet, each row tried
            before it is kept.
          </p>
          <RouterLink to="/settings/sheets">Bring in a sheet</RouterLink>
        </section>
      </div>
      <section>
        <PeopleList />
        <hr class="hair" />
        <KeySwitch />
        <StandInSwitch />
        <p>
          Signed in as <strong>{{ session?.person.name }}</strong>, {{ session?.person.role }}.
        </p>
        <PasswordForm />
        <SecondFactor />
        <SessionList />
        <div class="leave">
          <Button @click="signOut()">Sign out</Button>
          <Button @click="signOut(true)">Sign out everywhere</Button>
        </div>
        <AuditList v-if="isOwner" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.settings {
  padding: 18px 24px 40px;
}

.columns {
  display: grid;
  gap: 30px 60px;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 360px), 460px));
  margin-top: 14px;
}

.leave {
  display: flex;
  gap: 12px;
  margin-top: 14px;
}
</style>
