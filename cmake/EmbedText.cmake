# embed_text(TARGET NAMESPACE FILE...): compiles text files in as std::string_view, one each,
# named after the file: catalogue/devices.json becomes NAMESPACE::devices.
function(embed_text target namespace)
  foreach(file ${ARGN})
    get_filename_component(name ${file} NAME_WE)
    set(source ${CMAKE_CURRENT_SOURCE_DIR}/${file})
    set(out ${CMAKE_CURRENT_BINARY_DIR}/embedded_${name}.cpp)
    add_custom_command(OUTPUT ${out}
      COMMAND ${CMAKE_COMMAND} -DIN=${source} -DOUT=${out} -DNAME=${name} -DNAMESPACE=${namespace}
              -P ${CMAKE_SOURCE_DIR}/cmake/EmbedOne.cmake
      DEPENDS ${source} ${CMAKE_SOURCE_DIR}/cmake/EmbedOne.cmake VERBATIM)
    target_sources(${target} PRIVATE ${out})
    set_source_files_properties(${out} PROPERTIES SKIP_AUTOMOC ON SKIP_PRECOMPILE_HEADERS ON)
  endforeach()
endfunction()
