/* A disk that is full: loaded before a program (LD_PRELOAD), it refuses every write into one folder. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/types.h>
#include <unistd.h>

static int full(int fd) {
  const char *folder = getenv("FULL_DISK");
  char link[64], path[4096];
  if (!folder) return 0;
  snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  ssize_t length = readlink(link, path, sizeof path - 1);
  if (length < 0) return 0;
  path[length] = 0;
  return !strncmp(path, folder, strlen(folder)) && strstr(path, ".db") && !strstr(path, getenv("FULL_DISK_BUT"));
}

#define WRITE(name, offset)                                                                          \
  ssize_t name(int fd, const void *bytes, size_t count, offset at) {                                 \
    static ssize_t (*real)(int, const void *, size_t, offset);                                       \
    if (!real) real = (ssize_t(*)(int, const void *, size_t, offset))dlsym(RTLD_NEXT, #name);        \
    if (full(fd)) return errno = ENOSPC, -1;                                                         \
    return real(fd, bytes, count, at);                                                               \
  }
WRITE(pwrite, off_t)
WRITE(pwrite64, off64_t)

ssize_t write(int fd, const void *bytes, size_t count) {
  static ssize_t (*real)(int, const void *, size_t);
  if (!real) real = (ssize_t(*)(int, const void *, size_t))dlsym(RTLD_NEXT, "write");
  if (full(fd)) return errno = ENOSPC, -1;
  return real(fd, bytes, count);
}
