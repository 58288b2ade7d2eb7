# Runs a program and compares what it prints with a kept text.
execute_process(COMMAND ${PROGRAM} OUTPUT_VARIABLE actual RESULT_VARIABLE code)
file(READ ${EXPECTED} expected)
if(NOT code EQUAL 0 OR NOT actual STREQUAL expected)
  message(FATAL_ERROR "exit ${code}, printed:\n${actual}\nexpected:\n${expected}")
endif()
