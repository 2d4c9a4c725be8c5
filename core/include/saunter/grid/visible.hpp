/// @file
/// What a shared library shows to those who link it: all that public headers declare, and nothing else.
#pragma once

#if defined(__GNUC__)
#define SAUNTER_VISIBLE __attribute__((visibility("default")))
#else
#define SAUNTER_VISIBLE
#endif
