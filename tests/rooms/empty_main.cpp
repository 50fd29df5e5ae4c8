// A room of the core with the rooms that it names links by itself.
int main() {}
