/* The calls that carrying a tree with its read back cannot do without, and nothing else: each folder listed and made, each file opened,
 * read, written under no name, named and closed, one sync, each copy opened and read once more. No digest, no list, no account: what a
 * program that also does these is held against. One thread for each core, a folder at a time.
 * Usage: limit SOURCE TARGET; TARGET must be there and empty. */
#define _GNU_SOURCE
#include <dirent.h>
#include <errno.h>
#include <fcntl.h>
#include <pthread.h>
#include <stdbool.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static char **folders;
static size_t count, room, next_folder;
static int from_root, to_root;
static bool reads_back;
static pthread_mutex_t gate = PTHREAD_MUTEX_INITIALIZER;

static void fail(const char *what, const char *name) { fprintf(stderr, "limit: %s %s: %s\n", what, name, strerror(errno)); exit(1); }

static void add(const char *path) {
  if (count == room && !(folders = realloc(folders, (room = room ? room * 2 : 1024) * sizeof *folders))) fail("realloc", path);
  if (!(folders[count++] = strdup(path))) fail("strdup", path);
}

/* The folders, each before what is in it; they are made on the way. */
static void find(const char *path) {
  int at = openat(from_root, path, O_RDONLY | O_DIRECTORY | O_NOFOLLOW);
  DIR *dir = at < 0 ? NULL : fdopendir(at);
  if (!dir) fail("open", path);
  add(path);
  for (struct dirent *e; (e = readdir(dir));) {
    if (e->d_type != DT_DIR || !strcmp(e->d_name, ".") || !strcmp(e->d_name, "..")) continue;
    char below[4096];
    snprintf(below, sizeof below, "%s/%s", path, e->d_name);
    if (mkdirat(to_root, below, 0755)) fail("mkdir", below);
    find(below);
  }
  closedir(dir);
}

static void copy(int from, int to, const char *name, char *buffer, size_t size) {
  int in = openat(from, name, O_RDONLY | O_NOFOLLOW);
  struct stat facts;
  if (in < 0 || fstat(in, &facts)) fail("open", name);
  int out = openat(to, ".", O_TMPFILE | O_WRONLY, 0644);
  if (out < 0) fail("make", name);
  for (ssize_t got; (got = read(in, buffer, size)) > 0;)
    if (write(out, buffer, got) != got) fail("write", name);
  struct timespec times[2] = { { 0, UTIME_OMIT }, facts.st_mtim };
  char link[64];
  snprintf(link, sizeof link, "/proc/self/fd/%d", out);
  if (futimens(out, times) || linkat(AT_FDCWD, link, to, name, AT_SYMLINK_FOLLOW)) fail("name", name);
  close(out);
  close(in);
}

static void read_back(int at, const char *name, char *buffer, size_t size) {
  int in = openat(at, name, O_RDONLY | O_NOFOLLOW);
  if (in < 0) fail("open again", name);
  posix_fadvise(in, 0, 0, POSIX_FADV_DONTNEED);
  while (read(in, buffer, size) > 0) { }
  close(in);
}

static void *work(void *_) {
  size_t size = 1 << 18;
  char *buffer = malloc(size);
  for (;;) {
    pthread_mutex_lock(&gate);
    size_t mine = next_folder++;
    pthread_mutex_unlock(&gate);
    if (mine >= count) break;
    int from = openat(reads_back ? to_root : from_root, folders[mine], O_RDONLY | O_DIRECTORY);
    int to = reads_back ? -1 : openat(to_root, folders[mine], O_RDONLY | O_DIRECTORY);
    DIR *dir = from < 0 ? NULL : fdopendir(from);
    if (!dir) fail("open", folders[mine]);
    for (struct dirent *e; (e = readdir(dir));) {
      if (e->d_type != DT_REG) continue;
      if (reads_back) read_back(from, e->d_name, buffer, size);
      else copy(from, to, e->d_name, buffer, size);
    }
    closedir(dir);
    if (to >= 0) close(to);
  }
  free(buffer);
  return _;
}

static void all(void) {
  long threads = sysconf(_SC_NPROCESSORS_ONLN);
  if (threads > 64) threads = 64;
  pthread_t running[64];
  next_folder = 0;
  for (long i = 0; i < threads; i++) if (pthread_create(&running[i], NULL, work, NULL)) fail("thread", "");
  for (long i = 0; i < threads; i++) pthread_join(running[i], NULL);
}

int main(int argc, char **argv) {
  if (argc != 3) { fprintf(stderr, "usage: limit SOURCE TARGET\n"); return 2; }
  if ((from_root = open(argv[1], O_RDONLY | O_DIRECTORY)) < 0) fail("open", argv[1]);
  if ((to_root = open(argv[2], O_RDONLY | O_DIRECTORY)) < 0) fail("open", argv[2]);
  find(".");
  all();
  if (syncfs(to_root)) fail("sync", argv[2]);
  reads_back = true;
  all();
  return 0;
}
