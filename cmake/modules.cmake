# One library per folder. Headers form a file set, so that each is also compiled alone.
function(ts_module target folder)
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/src/${folder}/*.cpp)
  file(GLOB headers CONFIGURE_DEPENDS ${CMAKE_SOURCE_DIR}/src/${folder}/*.h)
  if(sources)
    add_library(${target} STATIC ${sources})
    set(scope PUBLIC)
    target_include_directories(${target} PUBLIC ${CMAKE_SOURCE_DIR}/src)
  else()
    add_library(${target} INTERFACE)
    set(scope INTERFACE)
    target_include_directories(${target} INTERFACE ${CMAKE_SOURCE_DIR}/src)
  endif()
  target_sources(${target} PUBLIC FILE_SET HEADERS BASE_DIRS ${CMAKE_SOURCE_DIR}/src FILES ${headers})
  target_link_libraries(${target} ${scope} ${ARGN})
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
