# Writes a C++ source with a hash of everything a computed result depends on: all sources of core and its tables.
set(all "")
list(SORT FILES)
foreach(f IN LISTS FILES)
  file(SHA256 ${f} one)
  string(APPEND all "${one}")
endforeach()
string(SHA256 hash "${all}")
file(WRITE ${OUT} "#include <string_view>\nnamespace ts {\nextern const std::string_view kEngineVersion;\nconst std::string_view kEngineVersion = \"${hash}\";\n}\n")
