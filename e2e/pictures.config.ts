import { defineConfig } from '@playwright/test'
import stories from './playwright.config.ts'

// Takes the pictures of docs/screenshots anew, from the demo world: bin/pictures.
export default defineConfig({ ...stories, testMatch: 'pictures.ts' })
