<template>
  <section class="nowhere">
    <h1>Nothing is here</h1>
    <p class="second">The address may be mistyped, or what it named is gone.</p>
    <router-link to="/">Go to the desk</router-link>
  </section>
</template>

<style scoped>
.nowhere { display: grid; gap: 8px; justify-items: start; padding: 48px 20px; }
</style>
