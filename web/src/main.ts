import 'vuetify/styles'
