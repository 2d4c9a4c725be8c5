/// @file
/// Words for compilers that the standard does not have, in one place. Each does nothing where it is not known.
///
/// Units: none.
/// Errors: none.
/// Cost: none at run time.
/// Threads: any number, nothing is shared.
#pragma once

#if defined(__SSE2__) || defined(_M_X64)
/// Instructions for four numbers at a time that every processor of the kind has.
#define SAUNTER_FOURS 1
#endif

#if defined(__GNUC__) || defined(__clang__)
/// Compiled into its caller, however large: what inner loops are made of.
#define SAUNTER_INLINE __attribute__((always_inline))
/// Tells that what lies there is likely to be read soon.
#define SAUNTER_PREFETCH(address) __builtin_prefetch(address)
#else
#define SAUNTER_INLINE
#define SAUNTER_PREFETCH(address) static_cast<void>(address)
#endif
