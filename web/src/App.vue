<script setup lang="ts">
/** Places of the work stand in a frame; what is handed to others stands alone, and asks for nothing beside itself. */
import { useRoute } from 'vue-router'
import WorkFrame from './frame/WorkFrame.vue'

const route = useRoute()
</script>

<template>
  <v-app>
    <template v-if="route.matched.length > 0"><main v-if="route.meta.isAlone"><router-view /></main><WorkFrame v-else /></template>
  </v-app>
</template>
