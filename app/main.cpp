#include "command.hpp"

int main(int argc, char** argv) { return saunter::app::run_command_line({argv + 1, argv + argc}); }
