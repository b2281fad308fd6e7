<template>
  <NuxtPage />
  <Toast position="bottom-left" />
</template>
