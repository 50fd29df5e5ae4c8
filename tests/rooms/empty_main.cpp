// SPDX-License-Identifier: GPL-3.0-or-later
// A room of the core with the rooms that it names links by itself.
int main() {}
