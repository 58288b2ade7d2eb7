# The library of a room: core/faults is ts_faults, app/places/bench is ts_app_bench.
function(ts_target_of folder result)
  string(REGEX REPLACE "^core/" "" name "${folder}")
  string(REPLACE "places/" "" name "${name}")
  string(REPLACE "/" "_" name "${name}")
  set(${result} ts_${name} PARENT_SCOPE)
endfunction()

# One library for a folder. Headers form a file set, so that each is also compiled alone.
function(ts_room folder knows libraries own)
  ts_target_of("${folder}" target)
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/src/${folder}/*.cpp)
  file(GLOB headers CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/src/${folder}/*.h)
  separate_arguments(knows)
  separate_arguments(libraries)
  separate_arguments(own)
  set(links ${libraries})
  foreach(room IN LISTS knows)
    ts_target_of("${room}" other)
    list(APPEND links ${other})
  endforeach()
  if(sources)
    add_library(${target} STATIC ${sources})
    set(scope PUBLIC)
    target_link_libraries(${target} PRIVATE ${own})
  else()
    add_library(${target} INTERFACE)
    set(scope INTERFACE)
  endif()
  target_include_directories(${target} ${scope} ${CMAKE_SOURCE_DIR}/src)
  target_sources(${target} PUBLIC FILE_SET HEADERS BASE_DIRS ${CMAKE_SOURCE_DIR}/src FILES ${headers})
  target_link_libraries(${target} ${scope} ${links})
  if(folder MATCHES "^(app|print)" AND sources)
    # Without the compiler's predefined macros moc passes over the standard library's concepts, which it cannot parse.
    set_target_properties(${target} PROPERTIES AUTOMOC ON AUTOMOC_COMPILER_PREDEFINES OFF)
  endif()
endfunction()

# `ts::kEngineVersion`: a hash over the sources of these folders and the reference tables, for results that are kept on disk.
function(ts_engine_version target)
  set(out ${CMAKE_CURRENT_BINARY_DIR}/${target}_engine_version.cpp)
  set(files)
  foreach(folder IN LISTS ARGN)
    file(GLOB found CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/src/${folder}/*.cpp ${CMAKE_SOURCE_DIR}/src/${folder}/*.h)
    list(APPEND files ${found})
  endforeach()
  file(GLOB tables CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/data/reference/*.csv)
  list(APPEND files ${tables})
  add_custom_command(OUTPUT ${out}
    COMMAND ${CMAKE_COMMAND} -DOUT=${out} "-DFILES=${files}" -P ${CMAKE_SOURCE_DIR}/cmake/engine_version.cmake
    DEPENDS ${files} ${CMAKE_SOURCE_DIR}/cmake/engine_version.cmake VERBATIM)
  target_sources(${target} PRIVATE ${out})
endfunction()

# A text file of data/ as a constant: `namespace ts::data { extern const std::string_view NAME; }`
function(ts_embed target)
  set(out ${CMAKE_CURRENT_BINARY_DIR}/${target}_data.cpp)
  set(files)
  foreach(f IN LISTS ARGN)
    list(APPEND files ${CMAKE_SOURCE_DIR}/${f})
  endforeach()
  add_custom_command(OUTPUT ${out}
    COMMAND ${CMAKE_COMMAND} -DOUT=${out} "-DFILES=${files}" -P ${CMAKE_SOURCE_DIR}/cmake/embed.cmake
    DEPENDS ${files} ${CMAKE_SOURCE_DIR}/cmake/embed.cmake VERBATIM)
  target_sources(${target} PRIVATE ${out})
endfunction()

# Files of data/ as bytes: `namespace ts::data { extern const std::string_view NAME; }`
function(ts_embed_binary target)
  set(out ${CMAKE_CURRENT_BINARY_DIR}/${target}_bytes)
  set(files)
  foreach(f IN LISTS ARGN)
    list(APPEND files ${CMAKE_SOURCE_DIR}/${f})
  endforeach()
  add_custom_command(OUTPUT ${out}.S ${out}.cpp
    COMMAND ${CMAKE_COMMAND} -DOUT=${out} "-DFILES=${files}" -P ${CMAKE_SOURCE_DIR}/cmake/embed_binary.cmake
    DEPENDS ${files} ${CMAKE_SOURCE_DIR}/cmake/embed_binary.cmake VERBATIM)
  set_source_files_properties(${out}.S PROPERTIES OBJECT_DEPENDS "${files}")
  target_sources(${target} PRIVATE ${out}.S ${out}.cpp)
endfunction()
