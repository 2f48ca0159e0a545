# Flags every target of ours is built with.
add_library(kestrel_flags INTERFACE)
# The two switched off raise false alarms inside std::string with GCC 12 at -O3 (GCC bugs 105329 and 105651).
target_compile_options(kestrel_flags INTERFACE -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor -Wimplicit-fallthrough
                       -Wno-missing-field-initializers
                       -Wno-stringop-overflow -Wno-restrict -Werror)
target_compile_definitions(kestrel_flags INTERFACE QT_NO_CAST_FROM_ASCII QT_NO_CAST_TO_ASCII QT_NO_FOREACH
                           KESTREL_VERSION="${PROJECT_VERSION}")
if(KESTREL_SANITIZE)
    target_compile_options(kestrel_flags INTERFACE -fsanitize=address,undefined -fno-sanitize-recover=undefined -fno-omit-frame-pointer)
    target_link_options(kestrel_flags INTERFACE -fsanitize=address,undefined)
endif()

# kestrel_module(<folder> USES <targets...>): one static library per folder of src/, named kestrel_<folder>.
# What a folder may include is exactly what it names here; tests/check_borders.py verifies the includes.
function(kestrel_module name)
    cmake_parse_arguments(ARG "" "" "USES" ${ARGN})
    file(GLOB_RECURSE sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp ${CMAKE_CURRENT_SOURCE_DIR}/*.h)
    list(REMOVE_ITEM sources ${CMAKE_CURRENT_SOURCE_DIR}/main.cpp) # the program around the module
    add_library(kestrel_${name} STATIC ${sources})
    target_include_directories(kestrel_${name} PUBLIC ${CMAKE_SOURCE_DIR}/src)
    target_link_libraries(kestrel_${name} PUBLIC ${ARG_USES} PRIVATE kestrel_flags)
endfunction()
