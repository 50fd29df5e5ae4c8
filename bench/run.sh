#!/usr/bin/env bash
# SPDX-License-Identifier: GPL-3.0-or-later
# Measures speed and accuracy and writes bench/RESULTS.md: ./inner-ear bench [--songs N] [--licks N] [--seed N]
set -euo pipefail
cd "$(dirname "$0")/.."
export PYTHONDONTWRITEBYTECODE=1
exec /usr/bin/python3 bench/run.py "$@"
