#!/usr/bin/env node
// Backup and restore need the server's own programs, so they live beside them.
import '../../bin/ovrel-admin.mjs';
