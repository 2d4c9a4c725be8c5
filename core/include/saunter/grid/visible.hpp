/// @file
/// What a shared library shows to those who link it: all that public headers declare, and nothing else.
///
/// Units: none.
/// Errors: none.
/// Cost: none at run time.
/// Threads: any number, nothing is shared.
#pragma once

#if defined(__GNUC__)
#define SAUNTER_VISIBLE __attribute__((visibility("default")))
#else
#define SAUNTER_VISIBLE
#endif
