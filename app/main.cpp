#include "run.hpp"

int main(int argc, char** argv) { return saunter::app::run_command_line({argv + (argc > 0 ? 1 : 0), argv + argc}); }
