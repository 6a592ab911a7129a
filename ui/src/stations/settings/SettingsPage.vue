<script setup lang="ts">
import { Button } from 'ant-design-vue'

import { isOwner, session, signOut } from '../../api/session'
import AuditList from './AuditList.vue'
import KeySwitch from './KeySwitch.vue'
import PasswordForm from '../../door/PasswordForm.vue'
import PeopleList from './PeopleList.vue'
import ReachPanel from './ReachPanel.vue'
import SecondFactor from './SecondFactor.vue'
import SessionList from './SessionList.vue'
import StandInSwitch from './StandInSwitch.vue'
import WorkshopForm from './WorkshopForm.vue'
</script>

<template>
  <div class="settings">
    <h1>Settings</h1>
    <div class="columns">
      <div>
        <WorkshopForm />
        <ReachPanel />
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
