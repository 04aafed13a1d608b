// The lock file names packages and hashes, no addresses: funding links are of no use to a build.
import { readFileSync, writeFileSync } from "node:fs";

const path = process.argv[2];
const lock = JSON.parse(readFileSync(path, "utf8"));
for (const entry of Object.values(lock.packages)) delete entry.funding;
writeFileSync(path, JSON.stringify(lock, null, 2) + "\n");
