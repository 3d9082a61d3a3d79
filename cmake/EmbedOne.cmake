file(READ ${IN} text)
file(WRITE ${OUT} "#include <string_view>\nnamespace ${NAMESPACE} {\nextern const std::string_view ${NAME};\nconst std::string_view ${NAME} = R\"embedded(${text})embedded\";\n}\n")
