import { defineConfig } from '@playwright/test'
import stories from './playwright.config.ts'

// Takes the pictures of docs/screenshots anew, from the demo world: bin/pictures.
export default defineConfig({ ...stories, workers: 1, projects: [{ name: 'pictures', testMatch: 'pictures.ts' }] })
