/* What a disk has for certain: whatever a program asked to be on it. Loaded before a program
   (LD_PRELOAD), it copies each file of one folder to another at every fsync of it, before the
   program is told that it is there. Cutting the power is: take the copies, drop the rest. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static void keep(int fd) {
  const char *from = getenv("DURABLE_FROM"), *to = getenv("DURABLE_TO");
  char link[64], path[4096], beside[4200], there[4200], block[65536];
  if (!from || !to) return;
  snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  ssize_t length = readlink(link, path, sizeof path - 1);
  if (length < 0) return;
  path[length] = 0;
  size_t folder = strlen(from);
  if (strncmp(path, from, folder) || path[folder] != '/') return;
  int in = open(path, O_RDONLY);
  if (in < 0) return;
  snprintf(there, sizeof there, "%s/%s", to, path + folder + 1);
  snprintf(beside, sizeof beside, "%s.part", there);
  int out = open(beside, O_WRONLY | O_CREAT | O_TRUNC, 0600);
  ssize_t got;
  while (out >= 0 && (got = read(in, block, sizeof block)) > 0)
    if (write(out, block, got) != got) abort();
  close(in);
  if (out < 0) abort();
  close(out);
  if (rename(beside, there)) abort();
}

#define SYNC(name)                                                   \
  int name(int fd) {                                                 \
    static int (*real)(int);                                         \
    if (!real) real = (int (*)(int))dlsym(RTLD_NEXT, #name);         \
    int done = real(fd);                                             \
    if (!done) keep(fd);                                             \
    return done;                                                     \
  }
SYNC(fsync)
SYNC(fdatasync)
