<template>
  <main class="mx-auto max-w-xl p-10">
    <h1 class="text-2xl">There is nothing at this address.</h1>
    <p class="my-4">A job may have been removed; the bay board keeps removed jobs for a while.</p>
    <RouterLink class="btn btn-main" to="/">To the bay board</RouterLink>
  </main>
</template>
