#!/usr/bin/env node
import '../dist/pace.mjs';
